import { TestBed } from '@angular/core/testing';
import { KinService } from '../data/kin';
import { KinPicture } from './picture';

describe('the small picture of a knot', () => {
  beforeEach(() => {
    TestBed.overrideProvider(KinService, { useValue: { nameOf: (of: string) => of } });
  });
  const show = async (ref: string): Promise<HTMLElement> => {
    const fixture = TestBed.createComponent(KinPicture);
    fixture.componentRef.setInput('of', ref);
    await fixture.whenStable();
    return fixture.nativeElement as HTMLElement;
  };

  it('shows a pattern as it is drawn, then as it lies in the hand', async () => {
    const page = await show('pattern:bowline');
    for (let k = 0; k < 500 && !page.querySelector('img'); k += 1) await new Promise((done) => setTimeout(done, 20));
    const svg = await (await fetch(page.querySelector('img')!.src)).text();
    expect(svg).toContain('dressed and set');
    expect(page.querySelector('ft-figure')).toBeNull();
    // What is there already is shown at once.
    expect((await show('pattern:reef')).querySelector('img')!.src).toContain('blob:');
  });

  it('shows a knot of the shelf by its picture, and nothing of a pattern that is not in the book', async () => {
    expect((await show('knot:1')).querySelector('img')!.getAttribute('src')).toBe('/api/knots/1/thumbnail.svg');
    const none = await show('pattern:no-such-pattern');
    expect(none.querySelector('img, ft-figure')).toBeNull();
  });
});

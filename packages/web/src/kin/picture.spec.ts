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

  const until = async (there: () => unknown): Promise<void> => {
    for (let k = 0; k < 500 && !there(); k += 1) await new Promise((done) => setTimeout(done, 20));
  };

  it('shows a pattern as it is drawn, then as it lies in the hand', async () => {
    const page = await show('pattern:bowline');
    await until(() => page.querySelector('img'));
    const svg = await (await fetch(page.querySelector('img')!.src)).text();
    expect(svg).toContain('dressed and set');
    expect(page.querySelector('ft-figure')).toBeNull();
    // What is drawn already is shown at once.
    const again = await show('pattern:bowline');
    await until(() => again.querySelector('ft-figure, img'));
    expect(again.querySelector('img')!.src).toBe(page.querySelector('img')!.src);
  });

  it('does not draw what is far from the window until it comes near', async () => {
    const far = document.createElement('div');
    far.style.height = '5000px';
    document.body.prepend(far);
    const page = await show('pattern:reef');
    await new Promise((done) => setTimeout(done, 300));
    expect(page.querySelector('ft-figure, img')).toBeNull();
    far.remove();
    await until(() => page.querySelector('ft-figure, img'));
    expect(page.querySelector('ft-figure, img')).not.toBeNull();
  });

  it('shows a knot of the shelf by its picture, and nothing of a pattern that is not in the book', async () => {
    expect((await show('knot:1')).querySelector('img')!.getAttribute('src')).toBe('/api/knots/1/thumbnail.svg');
    const none = await show('pattern:no-such-pattern');
    expect(none.querySelector('img, ft-figure')).toBeNull();
  });
});

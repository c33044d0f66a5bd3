import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { change, FIRST_LAYOUT } from '@foxtrail/core';
import { overhand } from '../testing/knots';
import { BesideForm } from './beside-form';

describe('what a form is held against', () => {
  let fixture: ComponentFixture<BesideForm>;
  let page: HTMLElement;
  const knot = overhand();
  const choose = async (file: File): Promise<void> => {
    const input = page.querySelector('input')!;
    const files = new DataTransfer();
    files.items.add(file);
    input.files = files.files;
    input.dispatchEvent(new Event('change'));
    await fixture.whenStable();
  };

  beforeEach(async () => {
    fixture = TestBed.createComponent(BesideForm);
    page = fixture.nativeElement as HTMLElement;
    fixture.componentRef.setInput('method', knot.method);
    await fixture.whenStable();
  });

  it('is the dressed drawing, where there is one beside the layout that is set', async () => {
    expect(page.querySelector('ft-figure')).toBeNull();
    const done = change(knot, FIRST_LAYOUT, { kind: 'add-layout', name: 'Dressed' });
    if (!done.ok) throw new Error(done.reason);
    fixture.componentRef.setInput('method', done.value.method);
    await fixture.whenStable();
    expect(page.querySelector('figcaption')!.textContent).toContain('“Dressed”');
  });

  it('is a photograph that stays here, and is put away; what is no picture is told', async () => {
    const dot = new Blob(['<svg xmlns="http://www.w3.org/2000/svg" width="4" height="4"/>'], { type: 'image/svg+xml' });
    await choose(new File([dot], 'bowline.svg', { type: 'image/svg+xml' }));
    expect(page.querySelector('img')!.alt).toBe('Photograph bowline.svg');
    expect(page.textContent).toContain('never published');
    page.querySelector<HTMLElement>('figcaption button')!.click();
    await fixture.whenStable();
    expect(page.querySelector('img')).toBeNull();
    await choose(new File(['no picture'], 'note.png', { type: 'image/png' }));
    for (let k = 0; k < 200 && !page.querySelector('.trouble'); k += 1) {
      await new Promise((done) => setTimeout(done, 20));
      await fixture.whenStable();
    }
    expect(page.querySelector('.trouble')!.textContent).toContain('“note.png” is no picture');
  });
});

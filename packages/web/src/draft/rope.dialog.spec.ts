import { TestBed } from '@angular/core/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { type Cordage, type Rope, WORKSHOP_WORDS } from '@foxtrail/core';
import { RopeDialog, type RopeAsked, type RopeSaid } from './rope.dialog';

const rope = (id: string, cordage?: Cordage): Rope => ({
  id,
  points: [
    [0, 0],
    [9, 0],
  ],
  curve: 'smooth',
  closed: false,
  ends: ['standing', 'tail'],
  weave: '',
  ...(cordage ? { cordage } : {}),
});

describe('what a rope is', () => {
  let closed: RopeSaid[];
  async function open(
    ...ropes: Rope[]
  ): Promise<{ element: HTMLElement; dialog: RopeDialog; settle: () => Promise<void> }> {
    closed = [];
    const data: RopeAsked = { ropes, index: ropes.length - 1, words: WORKSHOP_WORDS };
    TestBed.configureTestingModule({
      providers: [
        { provide: MAT_DIALOG_DATA, useValue: data },
        { provide: MatDialogRef, useValue: { close: (said: RopeSaid) => closed.push(said) } },
      ],
    });
    const fixture = TestBed.createComponent(RopeDialog);
    await fixture.whenStable();
    return {
      element: fixture.nativeElement as HTMLElement,
      dialog: fixture.componentInstance,
      settle: () => fixture.whenStable(),
    };
  }
  const keep = (element: HTMLElement): boolean => element.querySelector('form')!.dispatchEvent(new Event('submit'));

  it('says nothing of a rope of which nothing is said, and only what is said of another', async () => {
    const { element, dialog, settle } = await open(rope('a'));
    keep(element);
    expect(closed).toEqual([{ cordage: undefined }]);
    dialog.form.patchValue({ name: ' twine ', diameter: 0.5, construction: 'laid' });
    await settle();
    expect(element.querySelector('.seen strong')!.textContent).toBe('the twine');
    keep(element);
    expect(closed.at(-1)).toEqual({ cordage: { name: 'twine', diameter: 0.5, construction: 'laid' } });
  });

  it('draws it as it will be, and tells at once which rope it would be taken for', async () => {
    const { element, settle } = await open(rope('a', { colour: '#8f2f35' }), rope('b'));
    const strokes = (): string => element.querySelector('ft-figure svg')!.innerHTML;
    const before = strokes();
    element.querySelector<HTMLButtonElement>('[aria-label="Colour: green"]')!.click();
    await settle();
    expect(strokes()).not.toBe(before);
    expect(strokes()).toContain('#31573f');
    expect(element.querySelector('.warn')!.textContent).toContain('look alike without colour');
    element.querySelector<HTMLButtonElement>('[aria-label="Colour: white"]')!.click();
    await settle();
    expect(element.querySelector('.warn')).toBeNull();
  });

  it('refuses a diameter that cannot be, says which can, and keeps what was entered', async () => {
    const { element, dialog, settle } = await open(rope('a'));
    dialog.form.patchValue({ name: 'hawser', diameter: 40 });
    keep(element);
    await settle();
    expect(closed).toEqual([]);
    expect(element.querySelector('ft-trouble')!.textContent).toContain('diameter');
    expect(dialog.form.value.name).toBe('hawser');
  });
});

import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { lessonCheck, SHIPPED_GLOSSARY, TAKEN_AS_KNOWN, WORKSHOP_CHOICE } from '@foxtrail/core';
import type { FilmCue } from '@foxtrail/core/footage';
import { Icons } from '../ui/icons';
import { FilmCaptions } from './captions';

describe('Captions of a film', () => {
  let fixture: ComponentFixture<FilmCaptions>;
  let page: HTMLElement;
  let cues: readonly FilmCue[];
  const set = async (name: string, value: unknown): Promise<void> => {
    fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
  };
  beforeEach(async () => {
    TestBed.inject(Icons);
    fixture = TestBed.createComponent(FilmCaptions);
    page = fixture.nativeElement as HTMLElement;
    document.body.append(page);
    cues = [];
    fixture.componentInstance.changed.subscribe((next) => {
      cues = next;
      fixture.componentRef.setInput('cues', next);
    });
    const check = lessonCheck({}, WORKSHOP_CHOICE, SHIPPED_GLOSSARY, TAKEN_AS_KNOWN);
    const inputs = { cues, name: 'Take 1', duration: 20, time: 0, mayWrite: true, check, reading: 17, perLine: 42 };
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
  });
  afterEach(() => page.remove());
  const button = (text: string): HTMLButtonElement | undefined =>
    [...page.querySelectorAll('button')].find((b) => (b.ariaLabel ?? b.textContent).includes(text));
  const press = async (text: string): Promise<void> => {
    button(text)!.click();
    await fixture.whenStable();
  };
  const lines = (): HTMLInputElement[] => [...page.querySelectorAll<HTMLInputElement>('li input')];
  const take = async (name: string, content: BlobPart): Promise<void> => {
    const input = page.querySelector<HTMLInputElement>('input[type=file]')!;
    const files = new DataTransfer();
    files.items.add(new File([content], name));
    input.files = files.files;
    const before = page.textContent;
    input.dispatchEvent(new Event('change'));
    for (let k = 0; k < 300 && page.textContent === before; k += 1) {
      await new Promise((done) => setTimeout(done, 10));
      await fixture.whenStable();
    }
  };
  const SRT =
    '1\n00:00:01,000 --> 00:00:03,000\nUm, make a bite.\n\n2\n00:00:04,000 --> 00:00:09,000\nLead it left, sorry, right.\n';

  it('are taken in, cleaned by a press each, and nothing is changed before it is pressed', async () => {
    await take('take.srt', SRT);
    expect(lines().map((l) => l.value)).toEqual(['Um, make a bite.', 'Lead it left, sorry, right.']);
    expect(page.querySelector('.left')?.textContent).toContain('3 things to look at');
    await press('Leave it out');
    expect(lines()[0]?.value).toBe('Make a bite.');
    await press('Write “bight”');
    await press('Write “right”');
    expect(cues.map((c) => c.text)).toEqual(['Make a bight.', 'Lead it right.']);
    expect(page.querySelector('.left')).toBeNull();
  });
  it('are read in the encoding that they come in', async () => {
    const western = new Uint8Array(
      Array.from('1\n00:00:01,000 --> 00:00:03,000\nA clove hitch, caf\u00e9\n', (c) => c.charCodeAt(0)),
    );
    await take('old.srt', western);
    expect(cues.map((c) => c.text)).toEqual(['A clove hitch, café']);
  });
  it('keep what was there when a file is none, and say what to choose', async () => {
    await take('take.srt', SRT);
    await take('notes.txt', 'only words');
    expect(page.querySelector('[role=alert]')?.textContent).toMatch(/notes\.txt.*No caption can be read.*WebVTT/);
    expect(cues.length).toBe(2);
  });
  it('tell by its line what was read otherwise than it is written', async () => {
    await take('take.srt', `${SRT}\n3\n00:00:10,000 --> 00:00:08,000\nnever\n`);
    expect(page.querySelector('details')?.textContent).toContain('Line 10: It ends before it begins');
  });
  it('are written at the frame shown, begun and ended there, and refused where one stands', async () => {
    await set('time', 5);
    await press('Write one at 0:05.0');
    expect(cues).toEqual([{ start: 5, end: 8, text: 'New caption' }]);
    const [line] = lines();
    line!.value = '  Take the <end>\u0007 over.  ';
    line!.dispatchEvent(new Event('change'));
    await set('time', 6.5);
    await press('Ends at the frame shown');
    expect(cues).toEqual([{ start: 5, end: 6.5, text: 'Take the end over.' }]);
    await set('time', 6);
    await press('Write one at');
    expect(page.querySelector('[role=alert]')?.textContent).toContain('stands there already');
    await set('time', 7);
    await press('Begins at the frame shown');
    expect(page.querySelector('[role=alert]')?.textContent).toContain('not stand long enough');
    expect(cues.length).toBe(1);
  });
  it('are left out when nothing is left of them, and are gone to by their time', async () => {
    await take('take.srt', SRT);
    let wanted = -1;
    fixture.componentInstance.wanted.subscribe((at) => (wanted = at));
    await press('Go to 0:04.0');
    expect(wanted).toBe(4);
    const [line] = lines();
    line!.value = ' ';
    line!.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(cues.map((c) => c.text)).toEqual(['Lead it left, sorry, right.']);
  });
  it('are read only by who may not write', async () => {
    await take('take.srt', SRT);
    await set('mayWrite', false);
    expect(button('Take in a file')).toBeUndefined();
    expect(button('Write “')).toBeUndefined();
    expect(lines()[0]?.readOnly).toBeTrue();
  });
});

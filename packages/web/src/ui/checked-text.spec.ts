import { provideHttpClient } from '@angular/common/http';
import { provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { Mend, Remark } from '@foxtrail/core';
import { CheckedText, runsOf } from './checked-text';
import { Remarks } from './remarks';

describe('A checked text', () => {
  it('is cut at what is to be said of it, and is the same text', () => {
    const text = 'Make a bite and go over.';
    const runs = runsOf(text, [
      { from: 19, to: 23, wrong: true },
      { from: 7, to: 11, wrong: false },
      { from: 8, to: 12, wrong: false },
    ]);
    expect(runs.map((r) => r.text).join('')).toBe(text);
    expect(runs.filter((r) => r.mark).map((r) => [r.text, r.mark])).toEqual([
      ['bite', 'word'],
      ['over', 'wrong'],
    ]);
    expect(runsOf('', [])).toEqual([]);
  });

  it('underlines beneath the field and tells what is typed', async () => {
    const fixture = TestBed.createComponent(CheckedText);
    fixture.componentRef.setInput('text', 'Make a bite.');
    fixture.componentRef.setInput('label', 'Text of step 1');
    fixture.componentRef.setInput('marks', [{ from: 7, to: 11, wrong: false }]);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.querySelector('mark.word')?.textContent).toBe('bite');
    expect(page.querySelector('.beneath')?.textContent).toBe('Make a bite. ');
    const area = page.querySelector('textarea')!;
    expect(area.getAttribute('aria-invalid')).toBe('true');
    const heard: string[] = [];
    fixture.componentInstance.changed.subscribe((t) => heard.push(t));
    area.value = 'Make a bight.';
    area.dispatchEvent(new Event('input'));
    expect(heard).toEqual(['Make a bight.']);
  });

  it('leaves out what cannot be kept, and says so while it is typed', async () => {
    const fixture = TestBed.createComponent(CheckedText);
    fixture.componentRef.setInput('text', '');
    fixture.componentRef.setInput('label', 'Text of step 1');
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const area = page.querySelector('textarea')!;
    const heard: string[] = [];
    fixture.componentInstance.changed.subscribe((t) => heard.push(t));
    const type = async (text: string): Promise<void> => {
      area.value = text;
      area.dispatchEvent(new Event('input'));
      await fixture.whenStable();
    };
    await type('Pass it \0under\ud83e, then 🪢 over.');
    expect(heard).toEqual(['Pass it under, then 🪢 over.']);
    expect(area.value).toBe('Pass it under, then 🪢 over.');
    expect(page.querySelector('[role=status]')?.textContent).toContain('was left out');
    await type('Pass it under.');
    expect(page.querySelector('[role=status]')).toBeNull();
  });

  it('offers each mend and an introduction with a press', async () => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    const fixture = TestBed.createComponent(Remarks);
    const remark: Remark = {
      kind: 'misheard',
      from: 7,
      to: 11,
      words: 'bite',
      says: 'It is a bight.',
      mends: [{ from: 7, to: 11, instead: 'bight' }],
      concept: 'bight',
    };
    fixture.componentRef.setInput('remarks', [
      remark,
      { ...remark, kind: 'not introduced', mends: [], introduce: 'bight' },
    ]);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const heard: (Mend | string)[] = [];
    fixture.componentInstance.mend.subscribe((m) => heard.push(m));
    fixture.componentInstance.introduce.subscribe((c) => heard.push(c));
    page.querySelectorAll('button').forEach((b) => b.click());
    expect(heard).toEqual([remark.mends[0]!, 'bight']);
    fixture.componentRef.setInput('mayMend', false);
    await fixture.whenStable();
    expect(page.querySelector('button')).toBeNull();
    expect(page.textContent).toContain('It is a bight.');
  });
});

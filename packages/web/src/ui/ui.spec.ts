import { HttpErrorResponse } from '@angular/common/http';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { firstValueFrom, NEVER, timeout } from 'rxjs';
import { drawFigure, type Finding } from '@foxtrail/core';
import { troubleOf } from '../data/problem';
import { overhand } from '../testing/knots';
import { FigureView } from './figure';
import { FindingsList } from './findings-list';
import { fileName } from './save-file';
import { Steady } from './steady';
import { StepText } from './step-text';

describe('a figure on the page', () => {
  it('is an image with words, and two of them share no id', async () => {
    const make = async (): Promise<HTMLElement> => {
      const fixture = TestBed.createComponent(FigureView);
      fixture.componentRef.setInput('drawing', drawFigure(overhand().method.figure));
      fixture.componentRef.setInput('label', 'An overhand');
      await fixture.whenStable();
      return fixture.nativeElement as HTMLElement;
    };
    const [one, two] = [await make(), await make()];
    expect(one.querySelector('svg')?.getAttribute('role')).toBe('img');
    expect(one.querySelector('svg')?.getAttribute('aria-label')).toBe('An overhand');
    const ids = [one, two].flatMap((e) => [...e.querySelectorAll('[id]')].map((x) => x.id));
    expect(ids.length).toBeGreaterThan(3);
    expect(new Set(ids).size).toBe(ids.length);
  });
});

describe('a step’s text', () => {
  it('sets the words that say how the end passes in heavier type, and shows markup as text', async () => {
    const fixture = TestBed.createComponent(StepText);
    fixture.componentRef.setInput('text', 'Go over it, then <b>up through</b> the loop.');
    await fixture.whenStable();
    const element = fixture.nativeElement as HTMLElement;
    expect([...element.querySelectorAll('strong')].map((s) => s.textContent)).toEqual(['over', 'up through']);
    expect(element.querySelector('b')).toBeNull();
    expect(element.textContent).toBe('Go over it, then <b>up through</b> the loop.');
  });
});

describe('the list of findings', () => {
  it('points at a place and offers what puts it right', async () => {
    const finding: Finding = {
      code: 'tail-short',
      severity: 'error',
      title: 'The tail is short',
      why: 'Why.',
      remedy: 'Do.',
      fix: { label: 'Lengthen', layout: 0, edit: { kind: 'remove-step', index: 0 } },
    };
    const fixture = TestBed.createComponent(FindingsList);
    fixture.componentRef.setInput('findings', [finding]);
    const seen: string[] = [];
    fixture.componentInstance.point.subscribe((f) => seen.push(`point ${f.code}`));
    fixture.componentInstance.fix.subscribe((f) => seen.push(`fix ${f.code}`));
    await fixture.whenStable();
    for (const button of (fixture.nativeElement as HTMLElement).querySelectorAll('button')) button.click();
    expect(seen).toEqual(['point tail-short', 'fix tail-short']);
    fixture.componentRef.setInput('mayFix', false);
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).querySelectorAll('button').length).toBe(1);
  });
  it('keeps its rows where they are while the pointer is on it: what is mended is struck out, what is new comes last', async () => {
    const found = (title: string): Finding => ({ code: 'tail-short', severity: 'warning', title, why: '', remedy: '' });
    const fixture = TestBed.createComponent(FindingsList);
    const page = fixture.nativeElement as HTMLElement;
    const show = async (...titles: string[]): Promise<string[]> => {
      fixture.componentRef.setInput('findings', titles.map(found));
      await fixture.whenStable();
      return [...page.querySelectorAll('li')].map(
        (li) => `${li.classList.contains('gone') ? '−' : ''}${li.querySelector('strong')!.textContent}`,
      );
    };
    expect(await show('a', 'b', 'c')).toEqual(['a', 'b', 'c']);
    page.querySelector('ul')!.dispatchEvent(new PointerEvent('pointerenter'));
    expect(await show('new', 'b', 'c')).toEqual(['−a', 'b', 'c', 'new']);
    expect(await show('a', 'c')).toEqual(['a', '−b', 'c', '−new']);
    page.querySelector('ul')!.dispatchEvent(new PointerEvent('pointerleave'));
    expect(await show('a', 'c')).toEqual(['a', 'c']);
  });
});

describe('what the hand is on', () => {
  it('stays as it was while a pointer is down, until the press is through', async () => {
    const source = signal('before');
    const held = TestBed.inject(Steady).hold(source);
    expect(held()).toBe('before');
    document.body.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true }));
    source.set('after');
    expect(held()).toBe('before');
    document.body.dispatchEvent(new PointerEvent('pointerup', { bubbles: true }));
    expect(held()).toBe('before');
    await new Promise((done) => setTimeout(done, 5));
    expect(held()).toBe('after');
  });
});

describe('words for trouble', () => {
  it('come from the server’s answer, or say that there was none', () => {
    const answer = new HttpErrorResponse({
      status: 409,
      error: { error: { code: 'c', place: 'p', reason: 'Because.', remedy: 'Mend.' } },
    });
    expect(troubleOf(answer)).toEqual(jasmine.objectContaining({ status: 409, reason: 'Because.' }));
    expect(troubleOf(new HttpErrorResponse({ status: 0 })).reason).toContain('does not answer');
    expect(troubleOf(new HttpErrorResponse({ status: 502 })).status).toBe(0);
    expect(troubleOf(new Error('x')).reason).toBe('x');
  });
});

describe('an answer that does not come in time', () => {
  it('counts as a server that does not answer', async () => {
    const late = await firstValueFrom(NEVER.pipe(timeout(1))).catch((error: unknown) => troubleOf(error));
    expect(late).toEqual(jasmine.objectContaining({ status: 0, code: 'no-answer' }));
  });
});

describe('a file name', () => {
  it('is plain', () => {
    expect(fileName('Clove hitch, on a spar!')).toBe('clove-hitch-on-a-spar');
    expect(fileName('結び目')).toBe('knot');
  });
});

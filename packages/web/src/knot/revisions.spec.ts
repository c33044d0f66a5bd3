import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { applyEdit, writeKnot } from '@foxtrail/core';
import { FakeBench } from '../testing/fake-bench';
import { Icons } from '../ui/icons';
import { ExportDialog } from './export.dialog';
import { RevisionsDialog } from './revisions.dialog';

const ID = '00000000-0000-4000-8000-000000000001';

describe('revisions', () => {
  let bench: FakeBench;
  let http: HttpTestingController;
  let fixture: ComponentFixture<RevisionsDialog>;
  let page: HTMLElement;
  const closed: unknown[] = [];
  const button = (text: string): HTMLButtonElement =>
    [...page.querySelectorAll('button')].find((b) => b.textContent.includes(text))!;
  beforeEach(async () => {
    closed.length = 0;
    bench = new FakeBench();
    // The revision before the one on the bench had one crossing the other way.
    const swapped = applyEdit(bench.method().figure, {
      kind: 'swap',
      where: { strand: 'a', at: 2 },
    });
    const figure = swapped.ok ? swapped.value.figure : bench.method().figure;
    const before = writeKnot({ ...bench.knot(), method: { ...bench.method(), figure } });
    TestBed.configureTestingModule({
      providers: [
        provideHttpClient(),
        provideHttpClientTesting(),
        bench.provided,
        { provide: MatDialogRef, useValue: { close: (v: unknown) => closed.push(v) } },
      ],
    });
    TestBed.inject(Icons);
    http = TestBed.inject(HttpTestingController);
    fixture = TestBed.createComponent(RevisionsDialog);
    page = fixture.nativeElement as HTMLElement;
    fixture.detectChanges();
    const info = (number: number): object => ({
      number,
      name: null,
      savedBy: 'Wren',
      savedAt: '2026-05-01T10:00:00.000Z',
    });
    http.expectOne(`/api/knots/${ID}/revisions`).flush({ revisions: [info(2), info(1)], total: 2 });
    http.expectOne(`/api/knots/${ID}/revisions/1`).flush({ document: before });
    await fixture.whenStable();
  });

  it('shows the one before beside the bench, with the crossing that differs lit on both', () => {
    expect(page.querySelector('[role=status]')!.textContent).toContain('One crossing differs');
    expect(page.querySelectorAll('.marks .differs').length).toBe(2);
  });
  it('names a revision, and takes the name back', async () => {
    const field = page.querySelector('input')!;
    field.value = 'First try';
    page.querySelector('form')!.dispatchEvent(new Event('submit'));
    const request = http.expectOne({ method: 'PUT', url: `/api/knots/${ID}/revisions/1` });
    expect(request.request.body).toEqual({ name: 'First try' });
    request.flush(null);
    await fixture.whenStable();
    expect(button('First try')).toBeDefined();
    field.value = '<b>';
    page.querySelector('form')!.dispatchEvent(new Event('submit'));
    await fixture.whenStable();
    expect(page.querySelector('[role=alert]')!.textContent).toContain('cannot be used');
  });
  it('puts a revision back on the bench', async () => {
    const was = bench.method().figure.ropes[0]!.weave;
    button('Put it back').click();
    await fixture.whenStable();
    expect(bench.method().figure.ropes[0]!.weave).not.toBe(was);
    expect(closed).toEqual(['Revision 1']);
  });
});

describe('export', () => {
  it('offers every format, and says why there is no PD code of a knot on a spar', async () => {
    const bench = new FakeBench();
    const laid = applyEdit(bench.method().figure, {
      kind: 'add-host',
      host: {
        id: 'spar',
        kind: 'spar',
        points: [
          [-30, 0.3],
          [30, 0.3],
        ],
      },
    });
    if (!laid.ok) throw new Error(laid.reason);
    TestBed.configureTestingModule({
      providers: [
        {
          provide: MAT_DIALOG_DATA,
          useValue: {
            knot: { ...bench.knot(), method: { ...bench.method(), figure: laid.value.figure } },
            words: bench.vocabulary(),
          },
        },
      ],
    });
    TestBed.inject(Icons);
    const fixture = TestBed.createComponent(ExportDialog);
    const page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
    const choose = async (text: string): Promise<void> => {
      [...page.querySelectorAll('mat-radio-button')]
        .find((r) => r.textContent.includes(text))!
        .querySelector('input')!
        .click();
      await fixture.whenStable();
    };
    expect(page.querySelectorAll('mat-radio-button').length).toBe(6);
    await choose('PD code');
    expect(page.querySelector('[role=alert]')!.textContent).toContain('host');
    await choose('Extended Gauss');
    expect(page.querySelector('pre')!.textContent).toContain(' / ');
    await choose('PNG');
    expect(page.querySelector<HTMLInputElement>('input[type=number]')!.value).toBe('1600');
  });
});

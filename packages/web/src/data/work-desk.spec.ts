import { accept, WORKSHOP_PRACTICE, WORKSHOP_WORDS, type FigureFile } from '@foxtrail/core';
import { OVERHAND } from '../testing/knots';
import type { Order, Report } from '../workers/jobs/protocol';
import { WorkDesk } from './work-desk';

/** A worker that does what the test says. */
class StubWorker {
  static all: StubWorker[] = [];
  static get last(): StubWorker {
    return StubWorker.all.at(-1)!;
  }
  onmessage: ((event: MessageEvent<Report>) => void) | null = null;
  onerror: (() => void) | null = null;
  readonly sent: Order[] = [];
  terminated = false;
  constructor() {
    StubWorker.all.push(this);
  }
  postMessage(message: Order): void {
    this.sent.push(message);
  }
  terminate(): void {
    this.terminated = true;
  }
  say(data: Report): void {
    this.onmessage?.({ data } as MessageEvent<Report>);
  }
  get lastId(): number {
    const order = this.sent.at(-1)!;
    return 'id' in order ? order.id : 0;
  }
}

describe('the desk of workers', () => {
  const real = globalThis.Worker;
  let desk: WorkDesk;
  beforeEach(() => {
    StubWorker.all = [];
    globalThis.Worker = StubWorker as unknown as typeof Worker;
    desk = new WorkDesk();
  });
  afterEach(() => (globalThis.Worker = real));
  const read = (text: string): ReturnType<typeof desk.order<'read'>> => desk.order('read', { text, name: text });

  it('answers the latest order only; an earlier one is stopped', async () => {
    const first = read('one');
    const firstId = StubWorker.last.lastId;
    const second = read('two');
    expect(await first).toBeUndefined();
    const found = { document: OVERHAND, from: 'figure file', toWalk: false } as const;
    StubWorker.last.say({ kind: 'done', id: firstId, result: accept({ ...found, toWalk: true }) });
    StubWorker.last.say({ kind: 'done', id: StubWorker.last.lastId, result: accept(found) });
    const done = await second;
    expect(done?.ok && done.value.toWalk).toBeFalse();
    expect(StubWorker.all.length).withContext('one worker for all orders').toBe(1);
  });
  it('tells what is found on the way, and nothing after it is stopped', async () => {
    const told: unknown[] = [];
    const order = { document: OVERHAND, method: 0, practice: WORKSHOP_PRACTICE };
    const work = desk.order('identity', order, (what) => told.push(what));
    const id = StubWorker.last.lastId;
    StubWorker.last.say({ kind: 'told', id, what: { kinship: ['a'] } });
    desk.stop();
    StubWorker.last.say({ kind: 'told', id, what: { kinship: ['b'] } });
    expect(await work).toBeUndefined();
    expect(told).toEqual([{ kinship: ['a'] }]);
    expect(StubWorker.last.sent.at(-1)).toEqual({ stop: true });
  });
  it('shows how far it is, and as slow only what takes longer than half a second', async () => {
    const now = spyOn(performance, 'now').and.returnValue(1000);
    const work = read('x');
    const id = StubWorker.last.lastId;
    now.and.returnValue(1300);
    StubWorker.last.say({ kind: 'progress', id, doing: 'Swapping', share: 0.2 });
    expect(desk.progress()?.share).toBe(0.2);
    expect(desk.slow()).toBeUndefined();
    now.and.returnValue(1700);
    StubWorker.last.say({ kind: 'progress', id, doing: 'Swapping', share: 0.6 });
    expect(desk.slow()?.doing).toBe('Swapping');
    StubWorker.last.say({ kind: 'done', id, result: accept(undefined) });
    await work;
    expect(desk.progress()).toBeUndefined();
    expect(desk.slow()).toBeUndefined();
  });
  it('answers when its worker breaks down, and gives the next order a worker of its own', async () => {
    const work = read('x');
    const broken = StubWorker.last;
    broken.onerror?.();
    const done = await work;
    expect(done?.ok === false && done.reason).toContain('error of its own');
    expect(broken.terminated).toBeTrue();
    void read('y');
    expect(StubWorker.all.length).toBe(2);
    desk.close();
    expect(StubWorker.last.terminated).toBeTrue();
  });
});

describe('the core’s worker', () => {
  let desk: WorkDesk;
  beforeEach(() => (desk = new WorkDesk()));
  afterEach(() => desk.close());
  const analyse = (document: FigureFile): ReturnType<typeof desk.order<'analysis'>> =>
    desk.order('analysis', { document, method: 0, practice: WORKSHOP_PRACTICE, words: WORKSHOP_WORDS });

  it('does the jobs it is ordered with', async () => {
    const done = await analyse(OVERHAND);
    expect(done?.ok && done.value.closure.components).toBe(1);
  });
  it('refuses what cannot be read, with the reason', async () => {
    const done = await analyse({ ...OVERHAND, ropes: [{ ...OVERHAND.ropes[0]!, weave: 'O' }] });
    expect(done?.ok).toBeFalse();
    expect(done?.ok === false && done.place).not.toBe('work');
  });
  it('of many orders that come in together begins the last', async () => {
    const all = Array.from({ length: 20 }, () => analyse(OVERHAND));
    const done = await Promise.all(all);
    expect(done.slice(0, -1).every((d) => d === undefined)).toBeTrue();
    expect(done.at(-1)?.ok).toBeTrue();
  });
});

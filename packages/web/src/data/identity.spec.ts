import { TestBed } from '@angular/core/testing';
import { OVERHAND } from '../testing/knots';
import { IdentityService, type IdentityCancel, type IdentityMessage, type IdentityRequest } from './identity';

/** A worker that does what the test says. */
class StubWorker {
  static last: StubWorker;
  onmessage: ((event: MessageEvent<IdentityMessage>) => void) | null = null;
  onerror: (() => void) | null = null;
  readonly sent: (IdentityRequest | IdentityCancel)[] = [];
  terminated = false;
  constructor() {
    StubWorker.last = this;
  }
  postMessage(message: IdentityRequest | IdentityCancel): void {
    this.sent.push(message);
  }
  terminate(): void {
    this.terminated = true;
  }
  say(data: IdentityMessage): void {
    this.onmessage?.({ data } as MessageEvent<IdentityMessage>);
  }
}

describe('the identity service', () => {
  const real = globalThis.Worker;
  let service: IdentityService;
  beforeEach(() => {
    globalThis.Worker = StubWorker as unknown as typeof Worker;
    jasmine
      .clock()
      .install()
      .mockDate(new Date(2026, 4, 1));
    TestBed.configureTestingModule({ providers: [IdentityService] });
    service = TestBed.inject(IdentityService);
  });
  afterEach(() => {
    jasmine.clock().uninstall();
    globalThis.Worker = real;
  });

  it('keeps only what answers the latest request', () => {
    service.request(OVERHAND);
    service.request(OVERHAND);
    const [first, second] = StubWorker.last.sent.map((m) => (m.kind === 'request' ? m.id : 0)) as [number, number];
    StubWorker.last.say({ kind: 'report', report: { id: first, declined: 'old' } });
    expect(service.report()).toBeUndefined();
    StubWorker.last.say({ kind: 'report', report: { id: second, declined: 'new' } });
    expect(service.report()?.declined).toBe('new');
  });
  it('shows progress only when work takes longer than half a second, and none when it is done', () => {
    const now = spyOn(performance, 'now').and.returnValue(1000);
    service.request(OVERHAND);
    now.and.returnValue(1300);
    StubWorker.last.say({ kind: 'progress', id: 1, doing: 'Swapping', share: 0.2 });
    expect(service.progress()).toBeUndefined();
    now.and.returnValue(1700);
    StubWorker.last.say({ kind: 'progress', id: 1, doing: 'Swapping', share: 0.6 });
    expect(service.progress()).toEqual({ doing: 'Swapping', share: 0.6 });
    StubWorker.last.say({ kind: 'done', id: 1 });
    expect(service.progress()).toBeUndefined();
  });
  it('stops when asked, says so when the worker breaks, and ends it with the page', () => {
    service.request(OVERHAND);
    service.cancel();
    expect(StubWorker.last.sent.at(-1)).toEqual({ kind: 'cancel' });
    StubWorker.last.onerror?.();
    expect(service.report()?.declined).toContain('error of its own');
    TestBed.resetTestingModule();
    expect(StubWorker.last.terminated).toBeTrue();
  });
});

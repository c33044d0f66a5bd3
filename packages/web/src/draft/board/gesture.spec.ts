import { Hand, type Gesture, type Touch } from './gesture';

const touch = (x: number): Touch => ({ point: [x, 0], screen: [x, 0], under: false });
const frame = (): Promise<void> => new Promise((done) => requestAnimationFrame(() => done()));

describe('the hand on the board', () => {
  let told: string[];
  let hand: Hand;
  const gesture: Gesture = {
    move: (passed) => told.push(`move ${passed.map((t) => t.point[0]).join(' ')}`),
    end: (at) => told.push(`end ${at.point[0]}`),
    cancel: () => told.push('cancel'),
  };
  beforeEach(() => {
    told = [];
    hand = new Hand();
  });

  it('shows what it passed once a frame, every place of it in order', async () => {
    hand.begin(gesture);
    for (let x = 1; x <= 5; x += 1) hand.move([touch(x)]);
    hand.move([touch(6), touch(7)]);
    expect(told).toEqual([]);
    await frame();
    expect(told).toEqual(['move 1 2 3 4 5 6 7']);
    await frame();
    expect(told.length).toBe(1);
  });
  it('loses nothing that it passed just before it lets go', async () => {
    hand.begin(gesture);
    hand.move([touch(1)]);
    expect(hand.end(touch(2))).toBeTrue();
    await frame();
    expect(told).toEqual(['move 1', 'end 2']);
    expect(hand.busy).toBeFalse();
    expect(hand.end(touch(3))).toBeFalse();
  });
  it('shows nothing more of what is broken off, and breaks off before it begins anew', async () => {
    hand.begin(gesture);
    hand.move([touch(1)]);
    hand.cancel();
    await frame();
    expect(told).toEqual(['cancel']);
    hand.cancel();
    expect(told).toEqual(['cancel']);
    hand.begin(gesture);
    hand.begin(gesture);
    expect(told).toEqual(['cancel', 'cancel']);
  });
});

import type { Figure, Point } from '@foxtrail/core';
import { Camera } from './camera';
import { Fingers } from './fingers';

const line = (points: Point[]): Figure => ({
  ropes: [{ id: 'a', points, curve: 'smooth', closed: false, ends: ['standing', 'tail'], weave: '' }],
  hosts: [],
});
const near = (p: Point, q: Point): void => {
  expect(p[0]).toBeCloseTo(q[0], 6);
  expect(p[1]).toBeCloseTo(q[1], 6);
};

describe('the camera over the board', () => {
  let camera: Camera;
  beforeEach(() => {
    camera = new Camera();
    camera.size.set([800, 400]);
  });

  it('shows what is in view in the shape of the screen, and finds a place of the screen on it', () => {
    const [l, t, r, b] = camera.box();
    expect((r - l) / (b - t)).toBeCloseTo(2, 6);
    near(camera.at([0, 0]), [l, t]);
    near(camera.at([800, 400]), [r, b]);
    near(camera.at([400, 200]), camera.middle());
  });
  it('keeps the place under the pointer where it is when it looks closer, however often', () => {
    const screen: Point = [620, 90];
    const about = camera.at(screen);
    for (const by of [1.3, 2.1, 0.4, 1.7]) {
      camera.zoom(by, about);
      near(camera.at(screen), about);
    }
  });
  it('looks neither closer nor farther off without end', () => {
    const whole = camera.scale();
    for (let i = 0; i < 50; i += 1) camera.zoom(2);
    expect(camera.scale() / whole).toBeCloseTo(12, 6);
    for (let i = 0; i < 50; i += 1) camera.zoom(0.5);
    expect(camera.scale() / whole).toBeCloseTo(0.25, 6);
  });
  it('stays still under the hand until the figure grows out of view, and goes to another at once', () => {
    const small = line([
      [-4, 0],
      [4, 0],
    ]);
    camera.fit(small, 'a knot');
    const before = camera.box();
    camera.fit(
      line([
        [-3, 1],
        [3, -1],
      ]),
    );
    expect(camera.box()).toEqual(before);
    camera.fit(
      line([
        [-30, 0],
        [4, 0],
      ]),
    );
    expect(camera.box()[0]).toBeLessThan(-30);
    camera.fit(small, 'another knot');
    expect(camera.box()).toEqual(before);
    camera.pan([500, 0]);
    camera.fitAll(small);
    expect(camera.box()).toEqual(before);
  });

  it('is moved by two fingers: what each of them touched stays under it', () => {
    const fingers = new Fingers(camera);
    const [a, b]: Point[] = [
      [300, 200],
      [500, 200],
    ];
    const [left, right] = [camera.at(a!), camera.at(b!)];
    expect(fingers.press(1, a!)).toBe(1);
    expect(fingers.move(1, a!)).toBeFalse();
    expect(fingers.press(2, b!)).toBe(2);
    expect(fingers.move(1, [200, 260])).toBeTrue();
    expect(fingers.move(2, [600, 260])).toBeTrue();
    near(camera.at([200, 260]), left);
    near(camera.at([600, 260]), right);
    fingers.lift(2);
    expect(fingers.move(1, [0, 0])).toBeFalse();
    expect(fingers.move(7, [0, 0])).toBeFalse();
  });
});

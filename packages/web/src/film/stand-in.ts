/**
 * The stand-in camera as a stream of picture and sound, so that it is recorded as any camera is. What is filmed, and through which lens,
 * is the core's; here it is painted: the bench, light, grain, a gloved hand.
 */
import { PAPER_LOOK, type Drawing, type Look, type Point } from '@foxtrail/core';
import { BENCH, beepsOf, rowSeen, seenByStandIn, standInAt, strayAt, type StandInTake } from '@foxtrail/core/reel';
import { paintDrawing } from '../reel/paint-drawing';

/** Size of the frame, and frames a second. */
export const FRAME = { width: 960, height: 540, rate: 25 } as const;
/** Rows of the frame that are seen as one, in pixels. */
const ROWS = 2;
const LOOK: Look = { ...PAPER_LOOK, paper: '#8d7256' };
/** Width of a plank of the bench, as a share of the frame's height. */
const PLANK = 0.31;
/** The tile of grain, in pixels, and how much of it shows. */
const GRAIN = 160;
const GRAIN_SHOWS = 0.07;
/** A short tone as a move begins: hertz, seconds, and how loud. */
const TONE = { hertz: 880, seconds: 0.12, loud: 0.2 } as const;

type Context = OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D;

/** Grain: the same on every machine (a linear congruential generator, as in Numerical Recipes). */
function grain(): OffscreenCanvas {
  const tile = new OffscreenCanvas(GRAIN, GRAIN);
  const context = tile.getContext('2d') as OffscreenCanvasRenderingContext2D;
  const pixels = context.createImageData(GRAIN, GRAIN);
  let state = 1;
  for (let i = 0; i < pixels.data.length; i += 4) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    pixels.data.fill(state >>> 24, i, i + 3);
    pixels.data[i + 3] = 255;
  }
  context.putImageData(pixels, 0, 0);
  return tile;
}

/** Paints frames of a take. */
export class StandInPainter {
  private readonly bench = new OffscreenCanvas(
    BENCH.across * FRAME.width,
    ((BENCH.near - BENCH.far) / 2) * FRAME.height,
  );
  private readonly grain = grain();
  /** What lies on the painted bench. */
  private shown: string | undefined;

  constructor(private readonly take: StandInTake) {}

  paint(context: Context, time: number): void {
    const { width, height } = FRAME;
    const moment = standInAt(this.take, time);
    if (this.shown !== moment.key) this.paintBench(moment.drawing());
    this.shown = moment.key;
    context.setTransform(this.take.mirrored ? -1 : 1, 0, 0, 1, this.take.mirrored ? width : 0, 0);
    this.paintRows(context, strayAt(time));
    const light = context.createRadialGradient(0.35 * width, 0.2 * height, 0, 0.5 * width, 0.5 * height, 0.75 * width);
    light.addColorStop(0, 'rgb(255 244 214 / 22%)');
    light.addColorStop(0.6, 'rgb(255 244 214 / 0%)');
    light.addColorStop(1, 'rgb(24 14 6 / 38%)');
    context.fillStyle = light;
    context.fillRect(0, 0, width, height);
    context.setTransform(1, 0, 0, 1, 0, 0);
    if (moment.hand) {
      const [x, y] = seenByStandIn(this.take, moment.hand.at, time, width / height);
      this.paintHand(context, [x * width, y * height], moment.hand.away);
    }
    this.paintGrain(context, time);
    this.paintLabel(context);
  }

  private paintBench(drawing: Drawing): void {
    const { width, height } = FRAME;
    const context = this.bench.getContext('2d', { alpha: false }) as OffscreenCanvasRenderingContext2D;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = LOOK.paper;
    context.fillRect(0, 0, this.bench.width, this.bench.height);
    context.fillStyle = 'rgb(38 24 12 / 45%)';
    for (let y = 0; y < this.bench.height; y += PLANK * height) context.fillRect(0, y, this.bench.width, 2);
    const begins: Point = [((BENCH.across - 1) / 2) * width, ((-1 - BENCH.far) / 2) * height];
    paintDrawing(context, drawing, LOOK, this.take.box, width, height, begins);
  }

  /** The bench as the lens sees it: what is far is smaller. */
  private paintRows(context: Context, [dx, dy]: Point): void {
    const { width, height } = FRAME;
    for (let row = 0; row < height; row += ROWS) {
      const seen = (at: number): ReturnType<typeof rowSeen> => rowSeen((2 * at) / height - 1 - 2 * dy);
      const onBench = (at: number): number => ((seen(at).v - BENCH.far) / 2) * height;
      const across = seen(row + ROWS / 2).scale * this.bench.width;
      const [from, to] = [onBench(row), onBench(row + ROWS)];
      const left = width / 2 - across / 2 + dx * width;
      context.drawImage(this.bench, 0, from, this.bench.width, to - from, left, row, across, ROWS);
    }
  }

  /** A gloved hand and its sleeve, from the near edge of the bench to the working end. */
  private paintHand(context: Context, [x, y]: Point, away: number): void {
    const { width, height } = FRAME;
    const side = this.take.mirrored ? -1 : 1;
    const [px, py] = [x + side * away * 0.25 * width, y + away * 1.1 * height];
    const elbow: Point = [px + side * 0.2 * width, py + 1.1 * height];
    const wrist: Point = [px + (elbow[0] - px) * 0.16, py + (elbow[1] - py) * 0.16];
    context.lineCap = 'round';
    context.lineJoin = 'round';
    const stroke = (points: readonly Point[], colour: string, thick: number): void => {
      context.strokeStyle = colour;
      context.lineWidth = thick * height;
      context.beginPath();
      points.forEach(([u, v], i) => (i === 0 ? context.moveTo(u, v) : context.lineTo(u, v)));
      context.stroke();
    };
    stroke([wrist, elbow], 'rgb(20 14 8 / 35%)', 0.2);
    stroke([wrist, elbow], '#49586b', 0.18);
    const fingers = [-0.05, -0.017, 0.017, 0.05].map((off): readonly Point[] => [
      [px + (off - side * 0.01) * height, py + 0.01 * height],
      [wrist[0] + off * 0.9 * height, wrist[1]],
    ]);
    for (const finger of fingers) stroke(finger, '#5a4632', 0.05);
    for (const finger of fingers) stroke(finger, '#a98456', 0.042);
    stroke([wrist, [wrist[0] + (px - wrist[0]) * 0.35, wrist[1] + (py - wrist[1]) * 0.35]], '#a98456', 0.13);
  }

  private paintGrain(context: Context, time: number): void {
    const { width, height, rate } = FRAME;
    const frame = Math.round(time * rate);
    context.globalAlpha = GRAIN_SHOWS;
    for (let x = -((frame * 37) % GRAIN); x < width; x += GRAIN)
      for (let y = -((frame * 61) % GRAIN); y < height; y += GRAIN) context.drawImage(this.grain, x, y);
    context.globalAlpha = 1;
  }

  /** Said in the picture itself: whoever sees the film later knows. */
  private paintLabel(context: Context): void {
    context.font = '600 20px sans-serif';
    context.textAlign = 'left';
    context.textBaseline = 'alphabetic';
    context.fillStyle = 'rgb(16 24 30 / 72%)';
    context.fillRect(12, 12, context.measureText('Simulated').width + 20, 32);
    context.fillStyle = '#fff';
    context.fillText('Simulated', 22, 35);
  }
}

export interface StandInCamera {
  readonly stream: MediaStream;
  /** Begins the take. */
  readonly begin: () => void;
  readonly stop: () => void;
}

/** Sets the stand-in up: its picture stands at the beginning of the take until it begins; `ended` is told at its end. */
export function standInCamera(take: StandInTake, ended: () => void): StandInCamera {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [FRAME.width, FRAME.height];
  const context = canvas.getContext('2d', { alpha: false }) as CanvasRenderingContext2D;
  const painter = new StandInPainter(take);
  const sound = new AudioContext();
  const heard = sound.createMediaStreamDestination();
  const stream = new MediaStream([
    ...canvas.captureStream(FRAME.rate).getVideoTracks(),
    ...heard.stream.getAudioTracks(),
  ]);
  let began: number | undefined;
  let over = false;
  const timer = setInterval(() => {
    const time = began === undefined ? 0 : (performance.now() - began) / 1000;
    // The finished knot stays in the picture.
    painter.paint(context, Math.min(time, take.duration));
    if (time < take.duration || over) return;
    over = true;
    ended();
  }, 1000 / FRAME.rate);
  const beep = (from: number): void => {
    const [tone, loud] = [sound.createOscillator(), sound.createGain()];
    tone.frequency.value = TONE.hertz;
    loud.gain.value = TONE.loud;
    tone.connect(loud).connect(heard);
    tone.start(from);
    tone.stop(from + TONE.seconds);
  };
  painter.paint(context, 0);
  return {
    stream,
    begin: () => {
      began = performance.now();
      over = false;
      // Where the page may make no sound, the take is silent.
      sound.resume().catch(() => undefined);
      for (const at of beepsOf(take)) beep(sound.currentTime + at);
    },
    stop: () => {
      clearInterval(timer);
      for (const track of stream.getTracks()) track.stop();
      void sound.close();
    },
  };
}

/**
 * Paints what is read like a page: the cautions before the first step, and cards, with a still picture of the knot beside their words or without.
 */
import type { Look } from '@foxtrail/core';
import type { Moment } from '@foxtrail/core/reel';
import { CAPTION_FONT, lettered, wrap, type Context } from './paint-drawing';
import type { Scene } from './scene';

/** Paints a still picture into so much of the canvas, from its top left. */
export type Picture = (ctx: Context, width: number, height: number) => void;

/** What a picture has of a wide card’s width, of an upright one’s height. */
const PICTURED = { wide: 0.56, upright: 0.6 } as const;
/** A card this much wider than high has its picture at the left. */
const WIDE = 1.25;
/** Room round the words of a card, as a share of their width, and how small they are set before they are cut, as a share of their usual size. */
const MARGIN = 0.1;
const SMALLEST = 0.4;

/** A card: its picture, its title, and what it says beneath; words alone stand in the middle. */
export function paintCard(
  ctx: Context,
  look: Look,
  { shot, caption }: Moment,
  picture: Picture | undefined,
  width: number,
  height: number,
): void {
  const title = shot.kind === 'card' ? (shot.title ?? '') : '';
  const isWide = width > WIDE * height;
  const [w, h] = !picture ? [0, 0] : isWide ? [width * PICTURED.wide, height] : [width, height * PICTURED.upright];
  if (picture) {
    ctx.save();
    ctx.clip(new Path2D(`M0 0H${w}V${h}H0Z`));
    picture(ctx, w, h);
    ctx.restore();
    ctx.setTransform(1, 0, 0, 1, 0, 0);
  }
  const beside = picture !== undefined && isWide;
  const top = beside ? 0 : h;
  const unit = lettered(width, height);
  const margin = (width - (beside ? w : 0)) * MARGIN;
  // The picture keeps its own margin.
  const left = beside ? w + 0.4 * margin : margin;
  const room = width - left - margin;
  ctx.textBaseline = 'alphabetic';
  ctx.textAlign = 'left';
  const set = (size: number, text: string, weight: 500 | 700): string[] => {
    ctx.font = `${weight} ${size}px "${CAPTION_FONT}", sans-serif`;
    return text === '' ? [] : wrap(ctx, text, room);
  };
  // Beside a picture, and where much is said, words are set smaller.
  let scale = picture ? 0.72 : 1;
  const laid = (): { big: number; small: number; head: string[]; body: string[]; tall: number } => {
    const [big, small] = [(unit / 9) * scale, (unit / 17) * scale];
    const [head, body] = [set(big, title, 700), set(small, caption, 500)];
    return {
      big,
      small,
      head,
      body,
      tall: head.length * big * 1.15 + (head.length > 0 ? small : 0) + body.length * small * 1.4,
    };
  };
  let page = laid();
  while (page.tall > (height - top) * 0.92 && scale > SMALLEST) {
    scale *= 0.92;
    page = laid();
  }
  const { big, small, head, body, tall } = page;
  let y = top + (height - top - tall) / 2;
  ctx.fillStyle = look.labelText;
  ctx.font = `700 ${big}px "${CAPTION_FONT}", sans-serif`;
  for (const line of head) ctx.fillText(line, left, (y += big * 1.15) - big * 0.25);
  if (head.length > 0) {
    ctx.fillStyle = look.working;
    ctx.fillRect(left, y + small * 0.15, unit / 7, unit / 110);
    ctx.fillStyle = look.labelText;
    y += small;
  }
  ctx.font = `500 ${small}px "${CAPTION_FONT}", sans-serif`;
  for (const line of body) ctx.fillText(line, left, (y += small * 1.4) - small * 0.3);
}

/** The card before the first step: the knot's name and its cautions, as large as they fit. */
export function paintCautions(
  ctx: Context,
  { title, look }: Pick<Scene, 'title' | 'look'>,
  cautions: readonly string[],
  width: number,
  height: number,
): void {
  const left = width * 0.07;
  const unit = lettered(width, height);
  ctx.textBaseline = 'alphabetic';
  ctx.textAlign = 'left';
  ctx.fillStyle = look.labelText;
  ctx.font = `700 ${unit / 13}px "${CAPTION_FONT}", sans-serif`;
  ctx.fillText(title, left, height * 0.14);
  ctx.font = `700 ${unit / 24}px "${CAPTION_FONT}", sans-serif`;
  ctx.fillText('Before you begin', left, height * 0.23);
  let size = unit / 22;
  let lines: string[] = [];
  for (; size > unit / 50; size *= 0.9) {
    ctx.font = `500 ${size}px "${CAPTION_FONT}", sans-serif`;
    lines = cautions.flatMap((c) => wrap(ctx, `• ${c}`, width - 2 * left));
    if (lines.length * size * 1.4 < height * 0.68) break;
  }
  lines.forEach((line, i) => ctx.fillText(line, left, height * 0.3 + i * size * 1.4));
}

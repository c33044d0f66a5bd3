/**
 * Marks on films, as an attentive author sets them.
 */
import { expect, type Page } from '@playwright/test';
import {
  curveOf,
  directionAt,
  finishedFigure,
  readKnot,
  ropeOf,
  type Crossing,
  type Method,
  type Point,
  type TrailPosition,
} from '@foxtrail/core';

/** The way of tying of the knot that is open, as the server has it. */
export async function methodOf(page: Page): Promise<Method> {
  const id = /knot\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const { document } = (await (await page.request.get(`/api/knots/${id}`)).json()) as { document: unknown };
  const read = readKnot(document);
  if (!read.ok) throw new Error(read.reason);
  return read.value.method;
}

/** Marks a crossing: where it is, at the first one the ways of its strands, and which is over. */
export async function mark(
  page: Page,
  c: Crossing,
  seen: (p: Point) => Point,
  over: 'a' | 'b',
  ways: boolean,
): Promise<void> {
  const frame = page.getByRole('img', { name: /^The film at/ });
  const press = async (p: Point): Promise<void> => {
    const [box, [x, y]] = [await frame.boundingBox(), seen(p)];
    if (!box) throw new Error('there is no frame');
    await frame.click({ position: { x: box.width * x, y: box.height * y } });
  };
  await expect(page.getByText(`Crossing ${c.number} Press where`)).toBeVisible();
  await press(c.point);
  if (ways) {
    const figure = finishedFigure(await methodOf(page));
    const on = ({ strand, at }: TrailPosition): Point => {
      const [u, v] = directionAt(curveOf(ropeOf(figure, strand)!), at);
      return [c.point[0] + 3 * u, c.point[1] + 3 * v];
    };
    await press(on(c.first));
    await press(on(c.second));
  } else await page.keyboard.press('s');
  await page.keyboard.press(over);
}

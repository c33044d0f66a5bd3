/**
 * The hand of an author, for tests that draw.
 */
import { expect, type Page } from '@playwright/test';
import { fromMenu, newKnot, saved, signIn, tab } from './support.js';

export type Place = readonly [x: number, y: number];

/** Places from one of a way to the next, on a smooth curve through all of them (Catmull and Rom). */
function between(way: readonly Place[], to: number): Place[] {
  const at = (i: number): Place => way[Math.min(way.length - 1, Math.max(0, i))] as Place;
  const [a, b, c, d] = [at(to - 2), at(to - 1), at(to), at(to + 1)];
  return Array.from({ length: STEPS }, (_, k): Place => {
    const t = (k + 1) / STEPS;
    const on = (i: 0 | 1): number =>
      0.5 *
      (2 * b[i] +
        (c[i] - a[i]) * t +
        (2 * a[i] - 5 * b[i] + 4 * c[i] - d[i]) * t * t +
        (3 * b[i] - a[i] - 3 * c[i] + d[i]) * t * t * t);
    return [on(0), on(1)];
  });
}
const STEPS = 4;

/** The hand of an author who works in rope diameters on a board seen from far enough off. */
export class Hand {
  /** How often it has pressed a button, a key or the board, or drawn a stroke. */
  uses = 0;

  constructor(private readonly page: Page) {}

  static async at(page: Page, name: string, farther = 4): Promise<Hand> {
    await signIn(page);
    await newKnot(page, `${name} ${Date.now()}`);
    const hand = new Hand(page);
    await hand.fartherOff(farther);
    return hand;
  }

  /** Looks at the board from farther off. */
  async fartherOff(times: number): Promise<void> {
    for (let i = 0; i < times; i += 1) await this.page.keyboard.press('-');
  }

  /**
   * Where places are on the screen, once what was done last is shown and the board rests: it may look from farther off then, and on a busy
   * machine that comes late.
   */
  private async pixels(places: readonly Place[]): Promise<Place[]> {
    return this.page.locator('svg.board').evaluate(async (svg, list) => {
      const seen = (): DOMMatrix => (svg as unknown as SVGSVGElement).getScreenCTM()!;
      const frames = (): Promise<unknown> =>
        new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done, 40))));
      let onScreen = seen();
      for (let rests = 0; rests < 2;) {
        await frames();
        const now = seen();
        rests = now.a === onScreen.a && now.e === onScreen.e && now.f === onScreen.f ? rests + 1 : 0;
        onScreen = now;
      }
      return list.map(([u, v]) => {
        const p = new DOMPoint(u, v).matrixTransform(onScreen);
        return [p.x, p.y] as const;
      });
    }, places);
  }

  async press(place: Place): Promise<void> {
    this.uses += 1;
    const [at] = await this.pixels([place]);
    if (at) await this.page.mouse.click(...at);
  }

  /** Where a rope ends, as it was saved. */
  async endOf(rope: string): Promise<Place> {
    await saved(this.page);
    const id = /knot\/([^/]+)/.exec(this.page.url())?.[1] ?? '';
    const answer = await this.page.request.get(`/api/knots/${id}`);
    const { document } = (await answer.json()) as { document: { ropes: { id: string; points: Place[] }[] } };
    return document.ropes.find((r) => r.id === rope)!.points.at(-1)!;
  }

  /** Turns round what is pressed on. */
  async wrap(round: readonly Place[], { more = 0, behind = false } = {}): Promise<void> {
    await this.page.keyboard.press('t');
    for (const place of round) await this.press(place);
    for (let i = 0; i < more; i += 1) await this.page.getByRole('button', { name: 'Half a turn more' }).click();
    await this.page.getByRole('radio', { name: behind ? 'behind' : 'over', exact: true }).click();
    await this.page.getByLabel('Diameters from turn to turn').fill('4');
    await this.page.getByRole('button', { name: 'Lay it' }).click();
    await expect(this.page.locator('.hint')).toContainText('is wrapped');
  }

  /** Point by point; places after a `U` in the letters are laid with the under key held. */
  async lay(places: readonly Place[], letters = ''): Promise<void> {
    for (const [i, place] of places.entries()) {
      const under = letters[i] === 'U';
      if (under) await this.page.keyboard.down('u');
      await this.press(place);
      if (under) {
        // Held, not tapped: a tap would leave it on.
        await this.page.waitForTimeout(300);
        await this.page.keyboard.up('u');
      }
    }
  }

  async key(...keys: readonly string[]): Promise<void> {
    for (const key of keys) {
      this.uses += 1;
      await this.page.keyboard.press(key);
    }
  }

  async click(
    role: 'button' | 'menuitem' | 'radio' | 'checkbox' | 'tab' | 'option',
    name: string | RegExp,
  ): Promise<void> {
    this.uses += 1;
    if (role === 'menuitem') return fromMenu(this.page, name);
    await this.page
      .getByRole(role, typeof name === 'string' ? { name, exact: true } : { name })
      .first()
      .click();
  }

  /** Takes a rope in hand, by its name. */
  async take(name: string): Promise<void> {
    this.uses += 2;
    await this.page.locator('.chip.rope').click();
    await fromMenu(this.page, `Take the ${name} in hand`, 'menuitemradio');
    // What lay over the board fades for a moment and takes the mouse.
    await expect(this.page.locator('.cdk-overlay-backdrop')).toHaveCount(0);
  }

  /** One stroke of the mouse through places, round as a hand draws it; the under key is held on the way to places after a `U`. */
  async draw(places: readonly Place[], letters = ''): Promise<void> {
    this.uses += 1;
    const way = await this.pixels(places);
    const [first] = way;
    if (!first) return;
    await this.page.mouse.move(...first);
    await this.page.mouse.down();
    let under = false;
    for (let i = 1; i < way.length; i += 1) {
      const wanted = letters[i] === 'U';
      if (wanted !== under) {
        if (wanted) this.uses += 1;
        await (wanted ? this.page.keyboard.down('u') : this.page.keyboard.up('u'));
        under = wanted;
        // Held, not tapped: a tap would leave it on.
        if (wanted) await this.page.waitForTimeout(260);
      }
      for (const p of between(way, i)) await this.page.mouse.move(...p);
    }
    await this.page.mouse.up();
    if (under) await this.page.keyboard.up('u');
  }

  async host(kind: string): Promise<void> {
    await this.page.keyboard.press('b');
    await fromMenu(this.page, kind);
    await expect(this.page.getByRole('menu')).toHaveCount(0);
    await this.page.keyboard.press('l');
  }

  crossings(n: number): Promise<void> {
    return expect(this.page.locator('ft-board .waymark')).toHaveCount(n);
  }

  async is(name: string): Promise<void> {
    await saved(this.page);
    await tab(this.page, 'Proof');
    await expect(this.page.locator('.verdict-band h2')).toContainText(name);
  }
}

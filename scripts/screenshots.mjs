// npm run screenshots: one current picture of each main view, from the demo data, into docs/screenshots.
import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { onDemo } from './demo-page.mjs';
import { root } from './prepare.mjs';
import { run, say } from './say.mjs';

/** The bowline laid as far as its third move, which is laid over where it goes under: what comes of it is told. */
async function laid(page, base) {
  const moves = 3;
  await page.goto(`${base}/learn/bowline/lay`);
  const check = page.getByRole('button', { name: 'Check the move' });
  for (let i = 0; i < moves; i += 1) {
    await page.getByRole('button', { name: 'Show me' }).click();
    const way = await page.locator('.board .shown').evaluate((line) => {
      const to = line.getScreenCTM();
      return [...line.points].map((p) => [to.a * p.x + to.e, to.d * p.y + to.f]);
    });
    await page.getByRole('button', { name: 'Hide it' }).click();
    await page.mouse.move(...way[0]);
    await page.mouse.down();
    for (const place of way.slice(1)) await page.mouse.move(...place);
    await page.mouse.up();
    await check.click();
    if (i === moves - 1) break;
    for (const ring of await page.locator('.board .wrong').all()) {
      const { x, y, width, height } = await ring.boundingBox();
      await page.mouse.click(x + width / 2, y + height / 2);
    }
    if (await check.isEnabled()) await check.click();
  }
}

/** Has the stand-in film the overhand in a mirror, and marks what is seen in its last frame. */
async function film(page, open) {
  const { crossingsOf, finishedFigure } = await import('../packages/core/src/index.ts');
  const { seenByStandIn, standInTake } = await import('../packages/core/src/reel/index.ts');
  const { mark, methodOf } = await import('../e2e/marking.ts');
  await open('Overhand knot', 'Reel');
  await page.getByRole('link', { name: 'Filmed' }).click();
  await page.getByRole('button', { name: 'Record a film' }).click();
  await page.getByRole('switch', { name: 'In a mirror' }).click();
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await page.getByRole('heading', { name: 'Take 1' }).waitFor({ timeout: 60_000 });
  const take = standInTake(await methodOf(page), { mirrored: true });
  await page.getByRole('slider', { name: 'Place in the film' }).fill(String(take.duration - 0.5));
  await page.getByRole('img', { name: /^The film at [^0]/ }).waitFor();
  for (const c of crossingsOf(finishedFigure(take.method)))
    await mark(page, c, (p) => seenByStandIn(take, p, 0, 16 / 9), c.over === c.first ? 'a' : 'b', true);
  await page.getByRole('heading', { name: /^It is mirrored/ }).waitFor();
}

await run(async () => {
  const out = join(root, 'docs/screenshots');
  mkdirSync(out, { recursive: true });
  await onDemo(async ({ page, base, browser, open }) => {
    const shot = async (name) => {
      await page.waitForTimeout(900);
      await page.screenshot({ path: join(out, `${name}.png`) });
      say(`docs/screenshots/${name}.png`);
    };
    await open('Bowline', 'Review');
    await page.locator('.items').waitFor();
    await shot('review');
    await page.goto(`${base}/words/terms/collar`);
    await page.locator('ft-concept-figure').waitFor();
    await shot('words');
    // The map is drawn when every relation has been tried.
    await page.goto(`${base}/kin/relations`);
    for (let i = 0; i < 60 && (await page.getByText('being tried').count()) > 0; i += 1) {
      await page.waitForTimeout(2000);
      await page.reload();
      await page.locator('ft-kin-relations li').first().waitFor();
    }
    await page.goto(`${base}/kin/map`);
    await page.locator('ft-kin-map .legend').waitFor();
    await page.waitForTimeout(2500);
    await shot('kin-map');
    await page.goto(`${base}/assemblies`);
    await page.getByRole('link', { name: /^Bridle of a show kite/ }).click();
    await page.getByRole('button', { name: /^Tow loop/ }).click();
    await page.waitForTimeout(4000);
    await shot('assembly');
    await page.goto(`${base}/choose`);
    await page.getByRole('combobox', { name: 'What it is to hold' }).click();
    await page.getByRole('option', { name: 'a loop in itself' }).click();
    for (const wish of ['Must come undone after load', 'Must stay tied when shaken'])
      await page.getByRole('group', { name: wish }).getByRole('button', { name: 'yes' }).click();
    await page.locator('ft-choose .answers li.best').first().waitFor();
    await shot('choose');
    await open('Reef knot');
    await page.getByRole('button', { name: 'Show step 3' }).click();
    await shot('draft');
    await page.goto(`${base}/ropes/plans`);
    await page.locator('.cuts .barlayer path').first().waitFor();
    await shot('ropes');
    const verdict = (text) => page.locator('.verdict-band h2', { hasText: text }).waitFor();
    const proofTab = (name) => page.getByRole('tab', { name }).click();
    await open('Bowline', 'Proof');
    await verdict('It is the bowline');
    await shot('proof');
    await proofTab('Mistakes');
    await shot('mistakes');
    await proofTab('Inspection card');
    await shot('inspection-card');
    await proofTab('In the hand');
    await page.getByText('Proved to be the drawn knot').waitFor();
    // It stands in space, turned to the front.
    await page.locator('ft-form-view canvas').waitFor();
    await page.waitForTimeout(900);
    await shot('in-hand');
    await open('Reef knot', 'Proof');
    await proofTab(/Crossings/);
    await page.getByRole('button', { name: 'Swap crossing 2' }).click();
    await verdict('It is not the reef knot');
    await proofTab('Identity');
    await page.locator('.act').getByRole('button', { name: /^Swap/ }).click();
    await verdict('It is the reef knot');
    await open('Bowline', 'Reel');
    await page.getByRole('button', { name: 'Whole lesson' }).click();
    await page.getByRole('button', { name: /^Export WebM/, disabled: false }).waitFor();
    await page.getByRole('button', { name: /: step 5, drawn tight,/ }).click();
    await page.getByRole('slider', { name: 'Place in the demonstration' }).focus();
    for (let i = 0; i < 40; i += 1) await page.keyboard.press('ArrowRight');
    await shot('reel');
    await film(page, open);
    await shot('film');
    await open('Clove hitch on a spar', 'Sheet');
    await shot('sheet');
    await page.goto(`${base}/learn/reef-knot`);
    await page.getByRole('button', { name: 'Next' }).click();
    await page.getByRole('button', { name: 'Next' }).click();
    await page.locator('.player').scrollIntoViewIfNeeded();
    await shot('learner-page');
    // A slip that is looked for: of the first questions one after the other, until it is one.
    await page.goto(`${base}/learn/bowline/practice`);
    const where = page.getByRole('group', { name: 'Crossing' });
    for (let i = 0; i < 12 && !(await where.isVisible()); i += 1) {
      await page.getByRole('group', { name: 'Answer' }).getByRole('button').last().click();
      if (!(await where.isVisible())) await page.getByRole('button', { name: /^(Next|Done|Go on)$/ }).click();
    }
    await shot('practice');
    await laid(page, base);
    await shot('laying');
    // Cards show the knots in the hand once the server has set them; what is kept of a picture for good is that.
    await page.goto(`${base}/shelf`);
    await page.locator('li.knot img').first().waitFor();
    const areSet = () =>
      page.evaluate(async () => {
        const pictures = [...document.querySelectorAll('li.knot img')].map(async ({ src }) => {
          const answer = await fetch(src, { cache: 'reload' });
          return answer.headers.get('cache-control')?.includes('immutable') === true;
        });
        return (await Promise.all(pictures)).every(Boolean);
      });
    for (let n = 0; n < 60 && !(await areSet()); n += 1) await page.waitForTimeout(2000);
    await page.reload();
    await page.locator('li.knot img').first().waitFor();
    await page.waitForLoadState('networkidle');
    await shot('shelf');
    const sheet = spawnSync(
      process.execPath,
      ['--import', 'tsx', join(root, 'packages/pattern-book/make/contact-sheet.ts')],
      { cwd: root, encoding: 'utf8', maxBuffer: 1e8 },
    );
    const paper = await browser.newPage({ viewport: { width: 1600, height: 800 } });
    await paper.setContent(sheet.stdout);
    await paper.screenshot({ path: join(out, 'pattern-forms.png'), fullPage: true });
    say('docs/screenshots/pattern-forms.png');
  });
});
process.exit(process.exitCode);

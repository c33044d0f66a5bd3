import { KeptPages } from '../src/kept-pages.js';

describe('Kept pages', () => {
  const say = (kept: KeptPages, content: unknown, text?: string): Promise<string | undefined> =>
    kept.page(content, 'n', () => Promise.resolve(text));

  it('are written once for the same content, with each visit’s own nonce', async () => {
    const kept = new KeptPages();
    const write = jasmine.createSpy().and.callFake((nonce: string) => Promise.resolve(`<style nonce="${nonce}">`));
    expect(
      await Promise.all([kept.page({ knot: 'reef' }, 'a$&', write), kept.page({ knot: 'reef' }, 'b', write)]),
    ).toEqual(['<style nonce="a$&">', '<style nonce="b">']);
    expect(await kept.page({ knot: 'reef' }, 'c', write)).toBe('<style nonce="c">');
    expect(write).toHaveBeenCalledTimes(1);
  });
  it('are other pages when anything of the content is another, and a page that is none is not kept', async () => {
    const kept = new KeptPages();
    expect(await say(kept, { knot: 'reef', revision: 1 })).toBeUndefined();
    expect(await say(kept, { knot: 'reef', revision: 1 }, 'first')).toBe('first');
    expect(await say(kept, { knot: 'reef', revision: 2 }, 'second')).toBe('second');
  });
  it('give way to those asked for later, the longest unasked first', async () => {
    const kept = new KeptPages(2);
    for (const content of ['a', 'b', 'a', 'c']) await say(kept, content, `${content}1`);
    const found = [await say(kept, 'a', 'a3'), await say(kept, 'c', 'c3'), await say(kept, 'b', 'b3')];
    expect(found).toEqual(['a1', 'c1', 'b3']);
  });
});

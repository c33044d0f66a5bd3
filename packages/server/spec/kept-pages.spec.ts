import { KeptPages } from '../src/kept-pages.js';

describe('Kept pages', () => {
  it('are written once for the same content, with each visit’s own nonce', () => {
    const kept = new KeptPages();
    const write = jasmine.createSpy().and.callFake((nonce: string) => `<style nonce="${nonce}">`);
    expect(kept.page({ knot: 'reef' }, 'a$&', write)).toBe('<style nonce="a$&">');
    expect(kept.page({ knot: 'reef' }, 'b', write)).toBe('<style nonce="b">');
    expect(write).toHaveBeenCalledTimes(1);
  });
  it('are other pages when anything of the content is another, and a page that is none is not kept', () => {
    const kept = new KeptPages();
    expect(kept.page({ knot: 'reef', revision: 1 }, 'n', () => undefined)).toBeUndefined();
    expect(kept.page({ knot: 'reef', revision: 1 }, 'n', () => 'first')).toBe('first');
    expect(kept.page({ knot: 'reef', revision: 2 }, 'n', () => 'second')).toBe('second');
  });
  it('give way to those asked for later, the longest unasked first', () => {
    const kept = new KeptPages(2);
    const say = (content: string, text: string): string | undefined => kept.page(content, 'n', () => text);
    say('a', 'a1');
    say('b', 'b1');
    say('a', 'a2');
    say('c', 'c1');
    expect([say('a', 'a3'), say('c', 'c3'), say('b', 'b3')]).toEqual(['a1', 'c1', 'b3']);
  });
});

import { commandFor, COMMANDS, keySheet, TOOL_SECTIONS } from './commands';

const press = (key: string, more: { shiftKey?: boolean; ctrlKey?: boolean } = {}): string | undefined =>
  commandFor({ key, shiftKey: false, ctrlKey: false, metaKey: false, ...more })?.id;

describe('the table of commands', () => {
  it('has one command for a key, and an id of its own for each', () => {
    const keys = COMMANDS.flatMap((c) => c.keys);
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(COMMANDS.map((c) => c.id)).size).toBe(COMMANDS.length);
  });
  it('tells Shift and Control apart where a command wants them, and lets them pass elsewhere', () => {
    expect(press('s')).toBe('settle');
    expect(press('d')).toBe('tidy');
    expect(press('D', { shiftKey: true })).toBe('tighten');
    expect(press('w')).toBe('crossing-on');
    expect(press('W', { shiftKey: true })).toBe('crossing-back');
    expect(press('H', { shiftKey: true })).toBe('halt');
    expect(press('z')).toBe('undo');
    expect(press('z', { ctrlKey: true })).toBe('undo');
    expect(press('Z', { shiftKey: true, ctrlKey: true })).toBe('redo');
    expect(press('y', { ctrlKey: true })).toBe('redo');
    expect(press('?', { shiftKey: true })).toBe('keys');
    expect(press('+', { shiftKey: true })).toBe('larger');
    // The browser's own: they are left to it.
    for (const key of ['c', 's', 'p', 'r', 'f'])
      expect(press(key, { ctrlKey: true }))
        .withContext(key)
        .toBeUndefined();
    expect(press('F5')).toBeUndefined();
  });
  it('tells every key that has a line on the sheet once, and every button its key', () => {
    const lines = keySheet().flatMap((g) => g.keys.map((k) => `${g.title} ${k.shown}`));
    expect(new Set(lines).size).toBe(lines.length);
    for (const c of COMMANDS.filter((x) => x.button)) {
      expect(TOOL_SECTIONS).toContain(c.button!.section);
      expect(c.shown).not.toBe('');
      if (c.keys.length > 0) expect(c.says).withContext(c.id).toBeDefined();
    }
  });
});

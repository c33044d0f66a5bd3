import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

describe('what is not written here', () => {
  it('is under licences that allow it, is listed as it is installed, and is locked to its digest', () => {
    const script = fileURLToPath(new URL('../../../scripts/licences.mjs', import.meta.url));
    const { status, stdout } = spawnSync(process.execPath, [script, '--check'], { encoding: 'utf8' });
    expect(stdout).toContain('all under licences that allow it');
    expect(status).toBe(0);
  });
});

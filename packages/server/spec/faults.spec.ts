/** A short form of `npm run faults`: three servers behind a proxy, every fault once; those of the machine itself only there. */
import { runFaults } from './faults/faults.js';
import { startTestServer, type TestServer } from './server.js';

/** Servers are started anew for half of the faults: on a slow machine that takes its time, in milliseconds. */
const SLOW = 600_000;

describe('Three servers behind a proxy, while everything fails that can', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());

  it(
    'lose no edit, keep none twice, report no conflict that is none, end nobody’s session, and start again',
    async () => {
      const report = await runFaults({
        databaseUrl: server.databaseUrl,
        servers: 3,
        faults: 9,
        seed: 20_261,
        authors: [
          { name: 'Ada Author', password: 'right horse' },
          { name: 'Olm Owner', password: 'whole horse' },
        ],
      });
      expect(Object.keys(report.faults).length).toBe(9);
      expect(report.edits).toBeGreaterThan(9);
      expect(report.again).withContext('the faults were felt').toBeGreaterThan(0);
      expect(report).toEqual(
        jasmine.objectContaining({
          lost: 0,
          twice: 0,
          falseConflicts: 0,
          signedOut: 0,
          restartsFailed: [],
          endedByThemselves: 0,
          unhandled: [],
        }),
      );
    },
    SLOW,
  );
});

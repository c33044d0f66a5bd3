/**
 * The server's parts, for the start script's child process and for tests.
 */
export { createApp, type AppOptions } from './app.js';
export { migrate, openPool, transaction, whenUp } from './database.js';
export { metricsFor } from './metrics.js';
export { DEMO_FILES, loadDemo, DEMO_SIGN_INS } from './demo.js';
export { ensureAccount } from './accounts.js';
export { seedKin } from './kin.js';
export { insertRow, NOW, updateRows } from './columns.js';
export { formStale } from './formed.js';
export { slipsStale } from './slips.js';
export { tryStale } from './prover.js';
export { countStale } from './recount.js';
export { seedWords } from './words.js';

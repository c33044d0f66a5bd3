// npm start. An old Node cannot even read the rest, so its version is looked at before that is loaded.
import { checkNode, run } from './say.mjs';

await run(async () => {
  checkNode();
  const { main } = await import('./start-run.mjs');
  return main();
});
process.exit(process.exitCode);

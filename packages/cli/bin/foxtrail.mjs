#!/usr/bin/env node
// The foxtrail command: the core without a browser, run from source.
import { register } from 'tsx/esm/api';

register();
const { run, terminal } = await import('../src/cli.ts');
process.exitCode = await run(process.argv.slice(2), terminal());

/** A process that waits for the processes that compute aside, and for nothing else. */
import { warmUp } from '../src/aside.js';

await warmUp();
console.log('ready');

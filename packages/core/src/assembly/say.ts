/** Words for what is in an assembly. */
import { capital } from '../words/inflect.js';

/** “First keeper” as a sentence begins with it: “The first keeper”; a role that has an article keeps it. */
export const sayThe = (role: string): string =>
  /^(?:the|its|an?)\s/i.test(role) ? capital(role) : `The ${role.charAt(0).toLowerCase()}${role.slice(1)}`;

/**
 * How long a process has worked, not how long it has waited for a processor that others had.
 */
import { readFileSync } from 'node:fs';

/** Clock ticks in a second, as Linux counts them in /proc for every machine. */
const TICKS = 100;
/** Where in /proc/PID/stat, behind the name, the ticks spent in the program and for it in the kernel stand. See proc(5). */
const [USER, SYSTEM] = [11, 12];

/** Milliseconds of processor time that a process has had; nothing where the system does not tell. */
export function processorTime(pid: number | undefined): number | undefined {
  if (pid === undefined) return undefined;
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    const ticks = Number(fields[USER]) + Number(fields[SYSTEM]);
    return Number.isFinite(ticks) ? (1000 * ticks) / TICKS : undefined;
  } catch {
    return undefined;
  }
}

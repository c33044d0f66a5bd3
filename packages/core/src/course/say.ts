/** Times of a course, as they are said. */

/** “1 h 20 min”, “4 min”, “50 s”. */
export function sayMinutes(minutes: number): string {
  if (minutes < 1) return `${Math.round(60 * minutes)} s`;
  const whole = Math.round(minutes);
  if (whole < 60) return `${whole} min`;
  const rest = whole % 60;
  return `${Math.floor(whole / 60)} h${rest > 0 ? ` ${rest} min` : ''}`;
}

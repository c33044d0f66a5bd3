/** What the pages and the worker that answers for them without a network have in common. */

/** Under what a browser keeps pages, pictures and files. */
export const OFFLINE = 'foxtrail-offline';

/** The address of a page as it was kept: in the view and the method that are shown first, in its course. */
export function withoutView(address: string): string {
  const url = new URL(address);
  url.searchParams.delete('view');
  url.searchParams.delete('method');
  return url.href;
}

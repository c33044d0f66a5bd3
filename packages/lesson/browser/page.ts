/** The script of the public pages: the player, the desks of clip and films, other views without a new page, light and dark, printing. The pages read without it. */
import { progressKey } from './progress-key.js';
import { playLesson, type Asked } from './player.js';
import { offerTurning } from './turning.js';

const THEME = 'foxtrail-theme';

function theme(): void {
  const system = matchMedia('(prefers-color-scheme: dark)');
  const isDark = (): boolean => (localStorage.getItem(THEME) ?? (system.matches ? 'dark' : 'light')) === 'dark';
  const wear = (): void => void (document.documentElement.dataset.theme = isDark() ? 'dark' : 'light');
  wear();
  system.addEventListener('change', wear);
  const button = document.querySelector<HTMLElement>('[data-theme-toggle]');
  if (!button) return;
  button.hidden = false;
  button.addEventListener('click', () => {
    localStorage.setItem(THEME, isDark() ? 'light' : 'dark');
    wear();
  });
}

/** Says of each knot that was practised in this browser what is due again, and leads there. */
async function dueAgain(list: HTMLElement): Promise<void> {
  const practised = [...list.querySelectorAll<HTMLElement>('[data-knot]')].filter(
    ({ dataset: { knot = '' } }) => localStorage.getItem(progressKey(knot)) !== null,
  );
  if (practised.length === 0) return;
  const { dueCount, readProgress } = await import('./sitting.js');
  for (const item of practised) {
    const slug = item.dataset.knot ?? '';
    const due = dueCount(readProgress(localStorage.getItem(progressKey(slug))), new Date());
    const link = document.createElement('a');
    link.href = `/learn/${slug}/practice`;
    link.className = 'due';
    link.textContent =
      due === 0 ? 'Practised; nothing is due' : `${due} ${due === 1 ? 'question' : 'questions'} due again`;
    item.append(link);
  }
}

/** Does something once a place is scrolled into view. */
function whenNear(place: Element, does: () => void): void {
  const seen = new IntersectionObserver((entries) => {
    if (!entries.some((e) => e.isIntersecting)) return;
    seen.disconnect();
    does();
  });
  seen.observe(place);
}

/** Plays the lesson; another view or method is fetched as the page it is, and its lesson put in place of this one. */
function lesson(within: HTMLElement, step = 0): void {
  const print = within.querySelector<HTMLElement>('[data-print]');
  if (print) {
    print.hidden = false;
    print.addEventListener('click', () => window.print());
  }
  offerTurning(within);
  const files = within.querySelector('.files');
  const offline = files?.querySelector<HTMLElement>('[data-offline]');
  // At the end of the page: it comes when somebody has read so far.
  if (files && offline)
    whenNear(files, () => void import('./keep-offline.js').then(({ offerOffline }) => offerOffline(offline, [])));
  // What plays a clip or a film comes where there is one; it is for this lesson, also when another has taken its place by then.
  const own = within.querySelector('article') ?? within;
  if (own.querySelector('.clip')) void import('./clip.js').then(({ offerClip }) => offerClip(own));
  if (own.querySelector('.film')) void import('./film.js').then(({ offerFilms }) => offerFilms(own));
  let at = step;
  const letGo = playLesson(within, {
    step,
    moved: (to) => (at = to),
    forRooms: true,
    ask: ({ method, view }: Asked) => {
      const address = new URL(location.href);
      address.searchParams.set('view', view);
      if (method > 0) address.searchParams.set('method', String(method + 1));
      else address.searchParams.delete('method');
      const turned = method !== Number(within.querySelector<HTMLElement>('.views [data-method]')?.dataset.method);
      void (async () => {
        const answer = await fetch(address).catch(() => undefined);
        // Without an answer the browser goes there by itself, and says why it cannot.
        if (!answer?.ok) {
          location.assign(address);
          return;
        }
        const page = document.createElement('template');
        page.innerHTML = articleOf(await answer.text());
        const here = within.querySelector('article');
        if (!here || !page.content.firstElementChild) return;
        letGo();
        here.replaceWith(page.content);
        history.replaceState(null, '', address);
        lesson(within, turned ? 0 : at);
        within.querySelector<HTMLElement>('.player')?.focus({ preventScroll: true });
      })();
    },
  });
}

/** The lesson of a page; its head has a style that only its own page lets through. */
const articleOf = (page: string): string => page.slice(page.indexOf('<article'), page.lastIndexOf('</article>'));

theme();
const main = document.querySelector('main');
// Who only reads a lesson does not fetch what schedules questions.
if (main?.dataset.practice !== undefined) void import('./practise.js').then(({ practise }) => practise(main));
else if (main?.dataset.lay !== undefined) void import('./lay.js').then(({ layKnot }) => layKnot(main));
else if (main?.dataset.yours !== undefined) void import('./yours.js').then(({ showYours }) => showYours(main));
else if (main) lesson(main);
if (main?.querySelector('[data-done], .course-items') != null)
  void import('./course.js').then(({ followCourse }) => followCourse(main));
if (main?.classList.contains('published') === true) void dueAgain(main);

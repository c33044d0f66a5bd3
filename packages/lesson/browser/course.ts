/** How far a learner has come in a course, kept in this browser and nowhere else. */
import { keep } from './said.js';

const keyOf = (course: string): string => `foxtrail-course ${course}`;

/** What is done of a course; what somebody else wrote there is nothing. */
function doneIn(course: string): Set<string> {
  try {
    const read = JSON.parse(localStorage.getItem(keyOf(course)) ?? '[]') as unknown;
    return new Set(Array.isArray(read) ? read.filter((x): x is string => typeof x === 'string') : []);
  } catch {
    return new Set();
  }
}

/** Marks what is done in the contents of a course. */
function contents(main: HTMLElement, course: string): void {
  const items = [...main.querySelectorAll<HTMLElement>('.course-items > [data-item]')];
  const come = main.querySelector<HTMLElement>('.come');
  const show = (): void => {
    const done = doneIn(course);
    const count = items.filter((i) => done.has(i.dataset.item ?? '')).length;
    for (const item of items) item.classList.toggle('done', done.has(item.dataset.item ?? ''));
    const first = items.find((i) => !done.has(i.dataset.item ?? '') && i.querySelector('a') !== null);
    items.forEach((i) => i.classList.toggle('next', i === first && count > 0));
    if (!come) return;
    come.hidden = count === 0;
    const bar = come.querySelector('progress');
    if (bar) bar.value = count;
    const says = come.querySelector('span');
    if (says) says.textContent = count === items.length ? 'All of it done' : `${count} of ${items.length} done`;
    const kept = main.querySelector<HTMLElement>('[data-kept]');
    if (kept) kept.hidden = count === 0;
  };
  main.querySelector('[data-forget]')?.addEventListener('click', () => {
    localStorage.removeItem(keyOf(course));
    show();
  });
  show();
  const offline = main.querySelector<HTMLElement>('[data-offline]');
  const pages = [...main.querySelectorAll<HTMLAnchorElement>('.course-items a')].map((a) => a.href);
  if (offline) void import('./keep-offline.js').then(({ offerOffline }) => offerOffline(offline, pages));
}

/** Shows how far one has come, and lets one say that a lesson is done. */
export function followCourse(main: HTMLElement): void {
  if (main.dataset.course !== undefined) {
    contents(main, main.dataset.course);
    return;
  }
  const bar = main.querySelector<HTMLElement>('.course-bar');
  const label = main.querySelector<HTMLElement>('[data-done]');
  const box = label?.querySelector('input');
  const { course, item } = bar?.dataset ?? {};
  if (!label || !box || course === undefined || item === undefined) return;
  label.hidden = false;
  box.checked = doneIn(course).has(item);
  box.addEventListener('change', () => {
    const done = doneIn(course);
    if (box.checked) done.add(item);
    else done.delete(item);
    keep(keyOf(course), JSON.stringify([...done]));
  });
}

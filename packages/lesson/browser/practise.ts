/**
 * Practising a knot: one question at a time, by pointer or by keys, with what is so after each; what is due when is kept in this browser. Counts
 * are sent only where the learner has said so.
 */
import { progressKey } from './progress-key.js';
import { element, keep, number, offerConsent } from './said.js';
import {
  answered,
  known,
  nextDue,
  nextQuestion,
  readProgress,
  written,
  type Outcome,
  type Progress,
} from './sitting.js';

/** Questions at a sitting; one may always go on. */
const SITTING = 10;

interface Question {
  readonly id: string;
  readonly level: number;
  readonly at: HTMLElement;
  readonly options: readonly string[];
  readonly right: number;
  /** Crossings of its picture; of a slip which one is wrong. */
  readonly crossings: number;
  readonly slip: number | undefined;
}

const questionsIn = (main: HTMLElement): Question[] =>
  [...main.querySelectorAll<HTMLElement>('[data-question]')].map((at) => ({
    id: at.dataset.question ?? '',
    level: number(at.dataset.level),
    at,
    options: [...at.querySelectorAll('.options > li')].map((li) => li.textContent),
    right: number(at.dataset.right),
    crossings: number(at.dataset.crossings),
    slip: at.dataset.slip === undefined ? undefined : number(at.dataset.slip),
  }));

/** One of some, by chance; so that nobody learns the order of the questions. */
const anyOf = <T>(some: readonly T[]): T | undefined => some[Math.floor(Math.random() * some.length)];

/** When something is due, as one says it. */
function sayWhen(due: Date, now: Date): string {
  const hours = (due.getTime() - now.getTime()) / 3_600_000;
  if (hours < 1) return 'in a few minutes';
  if (hours < 20) return `in about ${Math.round(hours)} ${Math.round(hours) === 1 ? 'hour' : 'hours'}`;
  const days = Math.max(1, Math.round(hours / 24));
  return days === 1 ? 'tomorrow' : `in ${days} days`;
}

/** Asks the questions of a page; where there are none it does nothing. */
export function practise(main: HTMLElement): void {
  const slug = main.dataset.practice;
  const desk = main.querySelector<HTMLElement>('.sitting');
  const questions = questionsIn(main);
  if (slug === undefined || !desk || questions.length === 0) return;
  let progress: Progress = readProgress(localStorage.getItem(progressKey(slug)));
  let [asked, seen] = [0, 0];
  let last: string | undefined;

  main.classList.add('one-by-one');
  desk.hidden = false;
  const send = offerConsent(main, {
    slug,
    revision: number(main.dataset.revision),
    forget: () => {
      localStorage.removeItem(progressKey(slug));
      progress = new Map();
      [asked, seen] = [0, 0];
      next();
    },
  });

  const status = element('p', '', 'status');
  status.setAttribute('role', 'status');
  const place = element('div', '', 'asked');
  desk.append(status, place);

  const sayStatus = (): void => {
    status.textContent = `${known(questions, progress)} of ${questions.length} known for days${asked === 0 ? '' : ` · ${seen} of ${asked} right in this sitting`}`;
  };

  const done = (q: Question, outcome: Outcome): void => {
    last = q.id;
    progress = answered(progress, q.id, outcome, new Date());
    keep(progressKey(slug), written(progress));
    asked += 1;
    if (outcome === 'seen') seen += 1;
    send([{ question: q.id, right: outcome === 'seen' }]);
    sayStatus();
  };

  /** Puts what may be chosen below a question; the keys 1 to 9 choose too. */
  const choices = (texts: readonly string[], label: string, chosen: (index: number) => void): HTMLElement => {
    const group = element('div', '', 'choices');
    group.setAttribute('role', 'group');
    group.setAttribute('aria-label', label);
    texts.forEach((text, i) => {
      const button = element('button', text);
      button.type = 'button';
      button.addEventListener('click', () => chosen(i));
      group.append(button);
    });
    return group;
  };

  function ask(q: Question): void {
    const shown = q.at.cloneNode(true) as HTMLElement;
    const card = element('section', '', 'question');
    card.append(...shown.childNodes);
    const [head, options, answer] = [
      card.querySelector('h2'),
      card.querySelector('.options'),
      card.querySelector('details'),
    ];
    if (!head || !options || !answer) return;
    options.remove();
    answer.remove();
    head.tabIndex = -1;
    place.replaceChildren(card);

    const told = (outcome: Outcome, says: string): void => {
      card.querySelector('.choices')?.remove();
      card.classList.add('told', outcome);
      const verdict = element('div', '', 'verdict');
      verdict.setAttribute('role', 'alert');
      verdict.append(element('b', says), ...[...answer.querySelectorAll('p')].map((p) => p.cloneNode(true)));
      const on = element('button', (asked + 1) % SITTING === 0 ? 'Done' : 'Next', 'next');
      on.type = 'button';
      on.addEventListener('click', next);
      card.append(verdict, on);
      done(q, outcome);
      on.focus();
    };

    const where = (): void => {
      card.querySelector('.choices')?.remove();
      card.classList.add('where');
      const prompt = element('p', 'At which crossing?', 'prompt');
      const numbers = Array.from({ length: q.crossings }, (_, i) => String(i + 1));
      const pick = (i: number): void => {
        prompt.remove();
        told(
          i + 1 === q.slip ? 'seen' : 'misplaced',
          i + 1 === q.slip ? 'Right, and at that crossing.' : `It is wrong, but not at ${i + 1}: at ${q.slip}.`,
        );
      };
      const group = choices(numbers, 'Crossing', pick);
      group.classList.add('numbers');
      card.append(prompt, group);
      // The numbers in the picture may be pressed, too.
      card.querySelectorAll<SVGElement>('.marks text').forEach((text) =>
        text.addEventListener('click', () => {
          if (card.classList.contains('told')) return;
          pick(number(text.textContent) - 1);
        }),
      );
      group.querySelector('button')?.focus();
    };

    const chosen = (i: number): void => {
      if (i !== q.right) told('missed', 'No.');
      else if (q.slip !== undefined) where();
      else told('seen', 'Right.');
    };
    card.append(choices(q.options, 'Answer', chosen));
    // Of several pictures one may be pressed itself.
    card.querySelectorAll('.several figure').forEach((figure, i) =>
      figure.addEventListener('click', () => {
        if (!card.classList.contains('told')) chosen(i);
      }),
    );
    head.focus({ preventScroll: true });
    card.scrollIntoView({ block: 'nearest' });
  }

  function next(): void {
    sayStatus();
    const now = new Date();
    const question = nextQuestion(questions, progress, now, { last, any: anyOf });
    const isOver = asked > 0 && asked % SITTING === 0 && !place.querySelector('.over');
    if (question && !isOver) {
      ask(question);
      return;
    }
    const over = element('section', '', 'question over');
    const when = nextDue(questions, progress);
    const head = element('h2', asked === 0 ? 'All of it is known for now.' : `${seen} of ${asked} right.`);
    head.tabIndex = -1;
    over.append(head);
    if (!question && when)
      over.append(element('p', `The next question is due ${sayWhen(when, now)}. Come back then: it lasts longer.`));
    if (question) {
      const on = element('button', 'Go on', 'next');
      on.type = 'button';
      on.addEventListener('click', next);
      over.append(on);
    }
    place.replaceChildren(over);
    head.focus({ preventScroll: true });
  }

  document.addEventListener('keydown', (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.target instanceof HTMLInputElement) return;
    const buttons = place.querySelectorAll<HTMLButtonElement>('.choices button');
    if (/^[1-9]$/.test(event.key)) buttons[Number(event.key) - 1]?.click();
  });
  next();
}

/** Elements and counts that the pages on which one practises have in common. */
import { codeIn, sayCode } from '@foxtrail/contract/class-code';

/** An element with a text. */
export const element = <K extends keyof HTMLElementTagNameMap>(
  tag: K,
  text = '',
  className = '',
): HTMLElementTagNameMap[K] => {
  const made = document.createElement(tag);
  made.textContent = text;
  made.className = className;
  return made;
};

export const number = (text: string | undefined): number => Number(text ?? 0);

const CONSENT = 'foxtrail-practice-told';
const CLASS = 'foxtrail-class';

/** Keeps something in this browser, where it keeps anything. */
export function keep(key: string, value: string): void {
  try {
    localStorage.setItem(key, value);
  } catch {
    // A browser that keeps nothing: practice goes on.
  }
}

/** The class that somebody joined in this browser; what somebody else wrote there is none. */
function joined(): { readonly code: string; readonly name: string } | undefined {
  try {
    const read = JSON.parse(localStorage.getItem(CLASS) ?? 'null') as { code?: unknown; name?: unknown } | null;
    return typeof read?.code === 'string' && typeof read.name === 'string'
      ? { code: read.code, name: read.name }
      : undefined;
  } catch {
    return undefined;
  }
}

/** Lets one join a class by its code, and leave it again. */
function offerClass(form: HTMLFormElement): void {
  const [field, button, said] = [form.querySelector('input'), form.querySelector('button'), form.querySelector('span')];
  if (!field || !button || !said) return;
  const show = (): void => {
    const own = joined();
    field.readOnly = own !== undefined;
    if (own) field.value = sayCode(own.code);
    button.textContent = own ? 'Leave' : 'Join';
    said.textContent = own ? `What you agree to tell is counted with “${own.name}”, too.` : '';
  };
  const join = async (): Promise<void> => {
    const code = codeIn(field.value);
    const answer = await fetch(`/api/public/classes/${encodeURIComponent(code)}`);
    const body = (await answer.json()) as { name?: string; error?: { reason: string; remedy: string } };
    if (answer.ok) keep(CLASS, JSON.stringify({ code, name: body.name ?? '' }));
    show();
    if (body.error) said.textContent = `${body.error.reason} ${body.error.remedy}`;
  };
  form.addEventListener('submit', (event) => {
    event.preventDefault();
    if (joined()) {
      localStorage.removeItem(CLASS);
      field.value = '';
      show();
    } else if (field.value.trim() !== '')
      void join().catch(() => {
        said.textContent = 'The class could not be asked for. Try again.';
      });
  });
  show();
}

export interface Answer {
  readonly question: string;
  readonly right: boolean;
}

const codeOf = (): { code?: string } => {
  const own = joined();
  return own ? { code: own.code } : {};
};

/** Most answers that are sent at once. */
const AT_ONCE = 50;

/**
 * Asks on a page whether answers may be sent as counts; `forget` forgets what is kept here. What is returned sends them where they may be. That
 * they did not arrive costs the learner nothing.
 */
export function offerConsent(
  main: HTMLElement,
  { slug, revision, forget }: { slug: string; revision: number; forget: () => void },
): (answers: readonly Answer[]) => void {
  const consent = main.querySelector<HTMLElement>('.consent');
  const tell = main.querySelector<HTMLInputElement>('[data-consent]');
  if (!consent || !tell) return () => undefined;
  consent.hidden = false;
  tell.checked = localStorage.getItem(CONSENT) === 'yes';
  tell.addEventListener('change', () => {
    if (tell.checked) keep(CONSENT, 'yes');
    else localStorage.removeItem(CONSENT);
  });
  main.querySelector('[data-forget]')?.addEventListener('click', forget);
  const form = main.querySelector<HTMLFormElement>('[data-code]');
  if (form) offerClass(form);
  return (answers) => {
    if (!tell.checked || answers.length === 0) return;
    const told = answers.slice(0, AT_ONCE);
    const tellOf = (code: { code?: string }): Promise<Response> =>
      fetch(`/api/public/knots/${slug}/answers`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ revision, ...code, answers: told }),
        keepalive: true,
      });
    const own = codeOf();
    void tellOf(own)
      .then(async (answer) => {
        if (answer.status !== 404 || own.code === undefined) return;
        const { error } = (await answer.json()) as { error?: { code?: string } };
        if (error?.code !== 'no-such-class') return;
        // The class is over: what is told is counted without it.
        localStorage.removeItem(CLASS);
        await tellOf({});
      })
      .catch(() => undefined);
  };
}

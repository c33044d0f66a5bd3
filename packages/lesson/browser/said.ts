/** Elements and counts that the pages on which one practises have in common. */

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

/** Keeps something in this browser, where it keeps anything. */
export function keep(key: string, value: string): void {
  try {
    localStorage.setItem(key, value);
  } catch {
    // A browser that keeps nothing: practice goes on.
  }
}

export interface Answer {
  readonly question: string;
  readonly right: boolean;
}

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
  return (answers) => {
    if (!tell.checked || answers.length === 0) return;
    void fetch(`/api/public/knots/${slug}/answers`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ revision, answers: answers.slice(0, AT_ONCE) }),
      keepalive: true,
    }).catch(() => undefined);
  };
}

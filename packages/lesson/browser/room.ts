/**
 * A lesson for a room: one step fills the screen, so that the last row reads it, and the keys of a presenter's remote go from step to step. It
 * lasts over other views and methods, and ends with Escape, or with full screen.
 */
const CLASS = 'in-room';
/** What remotes send, and what a keyboard has for it. */
const ONWARD = new Set(['PageDown', ' ', 'Enter', 'ArrowRight', 'ArrowDown']);
const BACK = new Set(['PageUp', 'Backspace', 'ArrowLeft', 'ArrowUp']);

export const isInRoom = (): boolean => document.body.classList.contains(CLASS);

function enter(): void {
  document.body.classList.add(CLASS);
  // Where a browser gives no full screen, the page fills its window.
  if ('requestFullscreen' in document.documentElement)
    void document.documentElement.requestFullscreen().catch(() => undefined);
}

function leave(): void {
  document.body.classList.remove(CLASS);
  if (document.fullscreenElement) void document.exitFullscreen().catch(() => undefined);
}

/** Offers it to a player; `go` goes so many steps on. Ends with the signal. */
export function offerRoom(player: HTMLElement, go: (by: number) => void, signal: AbortSignal): void {
  const button = player.querySelector<HTMLElement>('[data-room]');
  if (!button) return;
  const say = (): void => {
    button.textContent = isInRoom() ? 'Leave' : 'For a room';
    button.setAttribute('aria-pressed', String(isInRoom()));
  };
  const toggle = (): void => {
    if (isInRoom()) leave();
    else enter();
    say();
  };
  button.hidden = false;
  say();
  button.addEventListener('click', toggle, { signal });
  document.addEventListener(
    'keydown',
    (event) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (!isInRoom()) {
        if (event.key.toLowerCase() !== 'f' || !player.contains(event.target as Node)) return;
        toggle();
      } else if (event.key === 'Escape') {
        leave();
        say();
      } else {
        // A button that has the focus keeps its own keys.
        const own = event.target instanceof Element && event.target.closest('button, a') !== null;
        if (own && (event.key === 'Enter' || event.key === ' ')) return;
        if (ONWARD.has(event.key)) go(1);
        else if (BACK.has(event.key)) go(-1);
        else return;
        event.stopPropagation();
      }
      event.preventDefault();
    },
    // Before the player's own keys.
    { signal, capture: true },
  );
  // Full screen that the browser ends, by its own key, ends it.
  document.addEventListener(
    'fullscreenchange',
    () => {
      if (document.fullscreenElement || !isInRoom()) return;
      leave();
      say();
    },
    { signal },
  );
}

/**
 * Light or dark: the system's choice until the author makes one.
 */
import { computed, effect, Injectable, signal } from '@angular/core';
import { DARK_LOOK, PAPER_LOOK, type Look } from '@foxtrail/core/documents';

const KEY = 'foxtrail-theme';

@Injectable({ providedIn: 'root' })
export class Theme {
  private readonly system = matchMedia('(prefers-color-scheme: dark)');
  private readonly chosen = signal(localStorage.getItem(KEY));
  private readonly systemDark = signal(this.system.matches);
  readonly dark = computed(() => (this.chosen() === null ? this.systemDark() : this.chosen() === 'dark'));
  /** Colours for drawing figures. */
  readonly look = computed<Look>(() => (this.dark() ? DARK_LOOK : PAPER_LOOK));

  constructor() {
    this.system.addEventListener('change', (e) => this.systemDark.set(e.matches));
    effect(() => {
      document.documentElement.dataset.theme = this.dark() ? 'dark' : 'light';
    });
  }

  toggle(): void {
    const next = this.dark() ? 'light' : 'dark';
    localStorage.setItem(KEY, next);
    this.chosen.set(next);
  }
}

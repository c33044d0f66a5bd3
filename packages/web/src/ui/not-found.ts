/**
 * The answer to an address that leads nowhere.
 */
import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';

@Component({
  selector: 'ft-not-found',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<main>
    <h1>There is nothing at this address</h1>
    <p>Go back to the <a routerLink="/shelf">shelf</a>, or look at the <a href="/learn">published knots</a>.</p>
  </main>`,
  styles: `
    main {
      max-width: 640px;
      margin: 80px auto;
      padding: 0 24px;
    }
  `,
})
export class NotFoundPage {}

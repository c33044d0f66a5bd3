/**
 * The sign-in page.
 */
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { Router } from '@angular/router';
import { drawFigure, readKnot } from '@foxtrail/core';
import { FigureView } from '../ui/figure';
import { SignInForm } from './sign-in-form';

/** A figure to look at while signing in: an overhand being closed. */
const SHOWN = readKnot({
  format: 'foxtrail-figure/1',
  ropes: [
    {
      id: 'a',
      points: [
        [-15, 1.2],
        [-9, 0.6],
        [-3.9, 0.1],
        [2, -0.2],
        [5.9, -1.4],
        [7.5, -4],
        [6, -7.5],
        [2.4, -9.4],
        [-1.8, -8.6],
        [-4.1, -5.6],
        [-4.3, -1.9],
        [-3.1, 1.5],
        [-0.7, 3.5],
        [1.6, 2.7],
        [2.7, 0],
        [3.7, -3.1],
        [5.7, -5.9],
        [9, -8.9],
        [13, -11.9],
      ],
      weave: 'UOUOUO',
    },
  ],
});

@Component({
  selector: 'ft-sign-in',
  imports: [SignInForm, FigureView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <section class="paper">
        @if (drawing; as d) {
          <ft-figure [drawing]="d" label="An overhand knot, its working end laid last" />
        }
      </section>
      <section class="card">
        <h1>No wrong knot leaves the bench</h1>
        <p class="soft">Sign in to draft, prove and publish knots. Published pages need no account.</p>
        <ft-sign-in-form (signedIn)="go()" />
      </section>
    </main>
  `,
  styles: `
    main {
      display: grid;
      grid-template-columns: minmax(0, 1.2fr) minmax(320px, 440px);
      gap: 24px;
      max-width: 1200px;
      margin: 48px auto;
      padding: 0 24px;
      align-items: stretch;
    }
    .paper {
      padding: 32px;
      display: grid;
      align-items: center;
    }
    .card {
      padding: 32px;
    }
    ft-sign-in-form {
      display: block;
      margin-top: 20px;
    }
    @media (max-width: 800px) {
      main {
        grid-template-columns: minmax(0, 1fr);
        margin: 16px auto;
      }
      .paper {
        display: none;
      }
    }
  `,
})
export class SignInPage {
  /** Where to go afterwards. */
  readonly to = input<string>();
  private readonly router = inject(Router);
  protected readonly drawing = SHOWN.ok
    ? drawFigure(SHOWN.value.method.figure, { working: { strand: 'a', from: 11.6 } })
    : undefined;

  protected go(): void {
    const to = this.to();
    void this.router.navigateByUrl(to?.startsWith('/') === true && !to.startsWith('//') ? to : '/shelf');
  }
}

/**
 * What a house has published, for learners.
 */
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Api } from '../data/api';
import { Attempt } from '../data/attempt';
import { TroubleLine } from '../ui/trouble';

@Component({
  selector: 'ft-published',
  imports: [RouterLink, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <ft-trouble [text]="trouble()" />
      @if (list(); as l) {
        <h1>Published by {{ l.house }}</h1>
        <ul>
          @for (k of l.knots; track k.slug) {
            <li class="card">
              <a [routerLink]="['/learn', k.slug]">
                <img
                  [src]="'/api/public/knots/' + k.slug + '/steps/last.svg'"
                  alt=""
                  width="200"
                  height="130"
                  loading="lazy"
                />
                <span
                  ><b>{{ k.name }}</b
                  ><span class="soft">{{ k.summary }}</span></span
                >
              </a>
            </li>
          } @empty {
            <li class="soft">Nothing is published yet.</li>
          }
        </ul>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 860px;
      margin: 0 auto;
      padding: 28px 24px;
    }
    ul {
      display: flex;
      flex-direction: column;
      gap: 14px;
      margin: 20px 0;
      padding: 0;
      list-style: none;
    }
    .card {
      overflow: hidden;
    }
    a {
      display: grid;
      grid-template-columns: 220px 1fr;
      gap: 18px;
      align-items: center;
      color: inherit;
      text-decoration: none;
    }
    a:hover b {
      color: var(--fox);
    }
    img {
      width: 220px;
      height: 140px;
      padding: 8px;
      background: #f6efe3;
      object-fit: contain;
    }
    b {
      display: block;
      font:
        620 21px 'Fraunces Variable',
        serif;
    }
  `,
})
export class PublishedPage {
  protected readonly list = signal<
    { house: string; knots: { name: string; slug: string; summary: string }[] } | undefined
  >(undefined);
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;

  constructor() {
    void this.attempt.run(inject(Api).published(), (list) => this.list.set(list));
  }
}

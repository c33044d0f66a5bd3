/** The two kinds of demonstration, each on a page of its own: animated from the steps, or filmed. */
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ActivatedRoute, RouterLink, RouterLinkActive } from '@angular/router';

@Component({
  selector: 'ft-reel-kinds',
  imports: [RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Demonstration">
      <a
        class="tab"
        [routerLink]="address()"
        routerLinkActive="here"
        [routerLinkActiveOptions]="{ exact: true }"
        ariaCurrentWhenActive="page"
        >Animated</a
      >
      <a class="tab" [routerLink]="address() + '/film'" routerLinkActive="here" ariaCurrentWhenActive="page">Filmed</a>
    </nav>
  `,
  styles: `
    nav {
      display: flex;
      gap: 4px;
    }
  `,
})
export class ReelKinds {
  private readonly route = inject(ActivatedRoute);
  protected readonly address = (): string => `/knot/${this.route.parent?.snapshot.paramMap.get('id') ?? ''}/reel`;
}

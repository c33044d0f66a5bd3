/** The names of the screens of one thing; each is a page with an address of its own. */
import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';

export interface TabLink {
  readonly path: string;
  readonly name: string;
}

@Component({
  selector: 'ft-tab-links',
  imports: [RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav [attr.aria-label]="label()">
      @for (tab of tabs(); track tab.path) {
        <a class="tab" [routerLink]="tab.path" routerLinkActive="here" [ariaCurrentWhenActive]="'page'">{{
          tab.name
        }}</a>
      }
    </nav>
  `,
  styles: `
    nav {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      margin-left: 8px;
    }
  `,
})
export class TabLinks {
  readonly label = input.required<string>();
  readonly tabs = input.required<readonly TabLink[]>();
}

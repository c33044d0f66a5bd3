/**
 * The behaviour table of a knot: what is done to it, what it does, what that rests on, how to undo it.
 */
import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { BehaviourRow } from '@foxtrail/core';

@Component({
  selector: 'ft-behaviour',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table class="table">
      <thead>
        <tr>
          <th scope="col">When one does this</th>
          <th scope="col">it</th>
          <th scope="col">What that rests on</th>
          <th scope="col">How to undo it</th>
        </tr>
      </thead>
      <tbody>
        @for (r of rows(); track r.trial) {
          <tr>
            <th scope="row">{{ r.trial }}</th>
            <td>
              <strong [class.bad]="r.does !== 'holds'">{{ r.does }}</strong>
            </td>
            <td>
              <span class="soft">{{ r.by }}:</span> {{ r.why }}
            </td>
            <td>{{ r.undo }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    :host {
      display: block;
      overflow-x: auto;
    }
    .bad {
      color: var(--plum);
    }
  `,
})
export class BehaviourTable {
  readonly rows = input.required<readonly BehaviourRow[]>();
}

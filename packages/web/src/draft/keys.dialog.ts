/**
 * The key sheet.
 */
import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';

const KEYS: readonly { readonly title: string; readonly keys: readonly (readonly [string, string])[] }[] = [
  {
    title: 'Laying',
    keys: [
      ['L', 'Lay: drag, or click point by point'],
      ['U', 'Hold: the end passes under. Tap: stays so until tapped again'],
      ['Arrows', 'Move the pencil by one diameter (Shift: a quarter)'],
      ['Enter', 'Lay the end to the pencil'],
      ['N', 'Begin a new rope'],
      ['A', 'Weave: over and under by turns'],
      ['B', 'Lay a host: spar, post, ring, carabiner, hook, hand'],
      ['E', 'The loop at the chosen place is an eye, meant to stay'],
      ['O', 'What the chosen end is: tail, standing part, running off'],
      ['J', 'Join the ends to a sling, or open it'],
      ['R', 'Reverse the rope in hand'],
    ],
  },
  {
    title: 'Tying',
    keys: [
      ['T', 'Wrap: turns round what is pressed on; again to change them'],
      ['F', 'Retrace: follow a stretch at one rope’s distance'],
      ['G', 'Bight: draw both legs at once'],
      ['Q', 'Twist a part by half turns'],
      ['Enter', 'Lay what the tool proposes'],
      ['D  Shift D', 'Tidy: drawn evenly; tighten: drawn close, as it is dressed'],
      ['+  −', 'Size of the chosen host; else closer, farther off'],
      ['0', 'The whole figure (wheel, two fingers or middle button move the board)'],
    ],
  },
  {
    title: 'Mending',
    keys: [
      ['P', 'Points: move, add (press on the rope), remove'],
      ['[  ]', 'Previous, next point; arrows move it'],
      ['I', 'Insert a point after the chosen one'],
      ['W', 'Next crossing (Shift: previous)'],
      ['X', 'Swap the crossing pointed at'],
      ['K', 'Weave walk: from crossing to crossing, O over, U under'],
      ['Delete', 'Remove what is chosen'],
      ['Z  Y', 'Undo, redo (Ctrl works too)'],
    ],
  },
  {
    title: 'Steps',
    keys: [
      ['H', 'Place a halt at the chosen place, or at the end'],
      [',  .', 'Previous, next step'],
      ['C', 'Call out what is pointed at, in the step shown'],
      ['S', 'Light the stretch about the chosen place, or put it out'],
      ['M', 'Next layout: open, dressed …'],
      ['V', 'Front, back, left-handed'],
      ['Esc', 'Let go: the whole figure'],
      ['?', 'This sheet'],
    ],
  },
];

@Component({
  selector: 'ft-keys',
  imports: [MatDialogModule, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Keys on the board</h2>
    <mat-dialog-content tabindex="0">
      <div class="groups">
        @for (group of groups; track group.title) {
          <section [class.under]="group.title === 'Steps'">
            <h3>{{ group.title }}</h3>
            <dl>
              @for (k of group.keys; track k[0]) {
                <dt>
                  <span class="key">{{ k[0] }}</span>
                </dt>
                <dd>{{ k[1] }}</dd>
              }
            </dl>
          </section>
        }
      </div>
    </mat-dialog-content>
    <mat-dialog-actions align="end"
      ><button mat-flat-button type="button" mat-dialog-close cdkFocusInitial>Close</button></mat-dialog-actions
    >
  `,
  styles: `
    .groups {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 16px 26px;
    }
    mat-dialog-content {
      max-height: 78vh;
    }
    section {
      grid-row: 1 / span 2;
    }
    section:nth-child(3) {
      grid-row: 1;
    }
    .under {
      grid-row: 2;
      grid-column: 3;
    }
    h3 {
      margin-bottom: 8px;
    }
    dl {
      display: grid;
      grid-template-columns: max-content 1fr;
      gap: 6px 10px;
      margin: 0;
    }
    dd {
      margin: 0;
      font-size: 15px;
      line-height: 1.25;
    }
  `,
})
export class KeysDialog {
  protected readonly groups = KEYS;
}

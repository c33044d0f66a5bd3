/**
 * Two to four knots side by side: figure, crossings, rope used, behaviour, cautions.
 */
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { capital, TRIALS } from '@foxtrail/core';
import { ChooseService, type KnownKnot } from '../data/choose';
import { KinPicture } from '../kin/picture';
import { ClassName } from '../ui/class-name';
import { TroubleLine } from '../ui/trouble';

@Component({
  selector: 'ft-compare',
  imports: [RouterLink, MatButtonModule, MatProgressBarModule, KinPicture, ClassName, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="title">
      <h1>Side by side</h1>
      <span class="space"></span>
      <a mat-stroked-button routerLink="/choose">Back to choosing</a>
    </div>
    @if (choose.share(); as share) {
      <mat-progress-bar mode="determinate" [value]="100 * share" aria-label="Working out what is known of each knot" />
    }
    <ft-trouble [text]="choose.trouble()"
      ><button mat-stroked-button type="button" (click)="choose.load()">Try again</button></ft-trouble
    >
    @if (knots().length >= 2) {
      <div class="card scroll">
        <table class="table">
          <thead>
            <tr>
              <td></td>
              @for (k of knots(); track k.ref) {
                <th scope="col">
                  <ft-kin-picture [of]="k.ref" />
                  @if (k.ref.startsWith('knot:')) {
                    <a [routerLink]="['/knot', k.ref.slice(5), 'kin']">{{ k.name }}</a>
                  } @else {
                    {{ k.name }}
                  }
                </th>
              }
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">Class</th>
              @for (k of knots(); track k.ref) {
                <td>{{ k.class | className }}</td>
              }
            </tr>
            <tr>
              <th scope="row">Crossings</th>
              @for (k of knots(); track k.ref) {
                <td>{{ k.crossings }}</td>
              }
            </tr>
            <tr>
              <th scope="row">Rope used, as drawn</th>
              @for (k of knots(); track k.ref) {
                <td>{{ round(k.rope) }} diameters</td>
              }
            </tr>
            @for (row of trials(); track row.trial) {
              <tr>
                <th scope="row">{{ row.says }}</th>
                @for (cell of row.cells; track $index) {
                  <td>
                    @if (cell) {
                      <strong [class.bad]="cell.does !== 'holds'">{{ cell.does }}</strong>
                      <span class="soft">{{ cell.by }}: {{ cell.why }}</span>
                      @if (cell.undo) {
                        <span class="soft">Undo it: {{ cell.undo }}</span>
                      }
                    } @else {
                      <span class="soft">not known</span>
                    }
                  </td>
                }
              </tr>
            }
            <tr>
              <th scope="row">Cautions</th>
              @for (k of knots(); track k.ref) {
                <td>
                  <ul>
                    @for (c of k.cautions; track c) {
                      <li>{{ c }}</li>
                    }
                  </ul>
                  @if (k.notForPeople; as why) {
                    <p class="bad">Not for people. {{ why }}</p>
                  }
                </td>
              }
            </tr>
          </tbody>
        </table>
      </div>
    } @else if (choose.known()) {
      <div class="note card">
        <h2>Pick two to four knots</h2>
        <p>There are not two of them here to be compared.</p>
        <a mat-flat-button routerLink="/choose">Choose</a>
      </div>
    }
  `,
  styleUrl: './compare.scss',
})
export class ComparePage {
  protected readonly choose = inject(ChooseService);
  /** References, joined by commas, from the address. */
  readonly of = input<string>('');
  protected readonly knots = computed(() =>
    this.of()
      .split(',')
      .slice(0, 4)
      .flatMap((ref): KnownKnot[] => this.choose.known()?.filter((k) => k.ref === ref) ?? []),
  );
  /** Trials of which anything is known of one of them. */
  protected readonly trials = computed(() =>
    TRIALS.map((trial) => ({
      trial,
      says: capital(trial),
      cells: this.knots().map((k) => k.behaviour.find((b) => b.trial === trial)),
    })).filter((r) => r.cells.some((c) => c !== undefined)),
  );
  protected round = Math.round;

  constructor() {
    if (this.choose.known() === undefined) void this.choose.load();
  }
}

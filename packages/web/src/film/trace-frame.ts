/**
 * The frame that is shown, laid under the board of a new knot: its rope is drawn over the picture, and Proof says which knot it is.
 */
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { Router } from '@angular/router';
import { NAME_LENGTH, type Box } from '@foxtrail/core';
import type { Footage } from '@foxtrail/core/footage';
import { firstValueFrom } from 'rxjs';
import { Api } from '../data/api';
import { Attempt } from '../data/attempt';
import { keepTrace } from '../data/traces';

/** How large it lies on the board, in diameters across, and how strongly it shows. */
const ACROSS = 40;
const STRENGTH = 0.7;

/** The frame that a film shows, as a picture; nothing where it shows none. */
function frameOf(video: HTMLVideoElement): Promise<Blob | undefined> {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [video.videoWidth, video.videoHeight];
  if (canvas.width === 0 || video.readyState < HTMLMediaElement.HAVE_CURRENT_DATA) return Promise.resolve(undefined);
  canvas.getContext('2d')?.drawImage(video, 0, 0);
  return new Promise((done) => canvas.toBlob((blob) => done(blob ?? undefined), 'image/webp', 0.9));
}

@Component({
  selector: 'ft-trace-frame',
  imports: [MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button mat-stroked-button type="button" [disabled]="attempt.busy()" (click)="trace()">
      <mat-icon svgIcon="lay" />{{ attempt.busy() ? 'It is laid out …' : 'Draw this frame' }}
    </button>
    <p>A new knot, with this frame under its board: draw the rope as it lies, and Proof says which knot it is.</p>
    @if (attempt.trouble(); as text) {
      <p class="warn" role="alert">{{ text }}</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    p {
      margin: 0;
      color: var(--ink-soft);
      font-size: 15px;
    }
    .warn {
      color: var(--plum);
    }
  `,
})
export class TraceFrame {
  readonly video = input.required<HTMLVideoElement>();
  readonly film = input.required<Footage>();
  /** The time of the frame, in seconds. */
  readonly time = input.required<number>();
  protected readonly attempt = new Attempt();
  private readonly api = inject(Api);
  private readonly router = inject(Router);

  protected trace(): void {
    void this.attempt.run(this.laidOut(), (id) => void this.router.navigate(['/knot', id, 'draft']));
  }

  /** A new knot with the frame under its board; resolves to its id. */
  private async laidOut(): Promise<string> {
    const video = this.video();
    const blob = await frameOf(video);
    if (!blob) throw new Error('The film shows no picture yet. Go to a frame, then try again.');
    const { name, turned } = this.film();
    const called = `${name}, ${this.time().toFixed(1)} s`;
    const tall = (ACROSS * video.videoHeight) / video.videoWidth;
    const box: Box = [-ACROSS / 2, -tall / 2, ACROSS / 2, tall / 2];
    const { id } = await firstValueFrom(this.api.create({ name: called.slice(-NAME_LENGTH) }));
    await keepTrace({ knot: id, blob, name: called, box, strength: STRENGTH, mirrored: turned === true });
    return id;
  }
}

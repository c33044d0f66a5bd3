/**
 * A photograph of a test: made smaller, so that nothing of the camera but the picture is kept, and sent under the name of its contents.
 */
import { ChangeDetectionStrategy, Component, computed, inject, Injectable, input, model, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { PHOTOGRAPH_LIMIT, PHOTOGRAPH_ROUTES } from '@foxtrail/contract/ropes';
import { contentsName } from '@foxtrail/core/footage';
import { firstValueFrom } from 'rxjs';
import { Api } from '../data/api';
import { Attempt } from '../data/attempt';
import { TroubleLine } from '../ui/trouble';

/** Longest side of what is kept, in pixels; and how it is packed. */
const LONGEST = 1600;
const QUALITY = 0.85;
/** Larger files are not opened: they would not fit in the memory of a phone. */
const MOST_OPENED = 60e6;

/** A picture as it is kept; where it cannot be, why not. */
async function smaller(file: Blob): Promise<Blob> {
  if (file.size > MOST_OPENED) throw new Error('It is too large to be opened here. Save it at a smaller size.');
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error('This is no picture that can be shown. Choose a JPEG, PNG or WebP.');
  });
  const scale = Math.min(1, LONGEST / Math.max(picture.width, picture.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(picture.width * scale));
  canvas.height = Math.max(1, Math.round(picture.height * scale));
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/webp', QUALITY));
  if (!blob || blob.size > PHOTOGRAPH_LIMIT)
    throw new Error('It cannot be made small enough. Save it at a smaller size.');
  return blob;
}

/** Where a photograph is shown from. */
export const photographAddress = (name: string): string =>
  PHOTOGRAPH_ROUTES.read.path.replace('{photograph}', encodeURIComponent(name));

@Injectable({ providedIn: 'root' })
export class Photographs {
  private readonly api = inject(Api);

  /** Keeps a picture; resolves to its name. */
  async keep(file: Blob): Promise<string> {
    const picture = await smaller(file);
    const contents = contentsName();
    contents.take(new Uint8Array(await picture.arrayBuffer()));
    const photograph = contents.name();
    const sent = this.api.call(PHOTOGRAPH_ROUTES.keep, {
      parameters: { photograph },
      body: picture,
      headers: { 'Content-Type': picture.type },
    });
    await firstValueFrom(sent);
    return photograph;
  }
}

@Component({
  selector: 'ft-photograph',
  imports: [MatButtonModule, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (address(); as a) {
      <a [href]="a" target="_blank" rel="noopener"><img [src]="a" [alt]="alt()" /></a>
      <button mat-button type="button" (click)="name.set(null)">Take it out</button>
    } @else {
      <button mat-stroked-button type="button" [disabled]="attempt.busy()" (click)="file.click()">
        {{ attempt.busy() ? 'Sending …' : 'Photograph …' }}
      </button>
    }
    <input #file type="file" accept="image/*" hidden aria-label="Photograph of the test" (change)="take(file)" />
    <ft-trouble [text]="attempt.trouble()" />
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
      min-height: 56px;
    }
    img {
      display: block;
      max-width: 120px;
      height: 72px;
      border-radius: 8px;
      object-fit: cover;
    }
  `,
})
export class PhotographField {
  private readonly photographs = inject(Photographs);
  /** Its name; null: there is none. */
  readonly name = model.required<string | null>();
  readonly alt = input('Photograph of the test');
  protected readonly attempt = new Attempt();
  protected readonly address = computed(() => {
    const name = this.name();
    return name === null ? undefined : photographAddress(name);
  });
  /** True while it is sent. */
  readonly sending = signal(false);

  protected async take(input: HTMLInputElement): Promise<void> {
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    this.sending.set(true);
    await this.attempt.run(this.photographs.keep(file), (name) => this.name.set(name));
    this.sending.set(false);
  }
}

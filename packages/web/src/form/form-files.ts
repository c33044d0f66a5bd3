/** A form as files: the picture that is seen, its places, its surfaces. */
import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { strandWord, type Figure, type SetForm, type Vocabulary } from '@foxtrail/core';
import { writeForm } from '@foxtrail/core/form';
import { Theme } from '../data/theme';
import { fileName, saveFile } from '../ui/save-file';

@Component({
  selector: 'ft-form-files',
  imports: [MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button mat-button type="button" (click)="savePicture()"><mat-icon svgIcon="download" />Picture (SVG)</button>
    <button mat-button type="button" (click)="savePlaces()"><mat-icon svgIcon="download" />Form (JSON)</button>
    <button mat-button type="button" (click)="saveSurfaces()"><mat-icon svgIcon="download" />Surfaces (glTF)</button>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      margin-left: -12px;
    }
  `,
})
export class FormFiles {
  readonly figure = input.required<Figure>();
  readonly form = input.required<SetForm>();
  readonly name = input.required<string>();
  readonly vocabulary = input.required<Vocabulary>();
  /** The side that is seen, in a word, and its picture as SVG. */
  readonly side = input.required<string>();
  readonly svg = input.required<string | undefined>();
  private readonly theme = inject(Theme);

  private save(content: BlobPart, type: string, rest: string): void {
    saveFile(new Blob([content], { type }), `${fileName(this.name())}-set${rest}`);
  }

  protected savePicture(): void {
    this.save(this.svg() ?? '', 'image/svg+xml', `-${this.side()}.svg`);
  }

  protected savePlaces(): void {
    this.save(JSON.stringify(writeForm(this.name(), this.form()), null, 1), 'application/json', '.json');
  }

  /** The surfaces of ropes and hosts, each a node by its name. */
  protected saveSurfaces(): void {
    const [figure, form, name] = [this.figure(), this.form(), this.name()];
    const named = (id: string): string => strandWord(this.vocabulary(), figure, id);
    void Promise.all([import('@foxtrail/core/mesh'), import('@foxtrail/core/gltf')]).then(
      ([{ meshesOf }, { writeGlb }]) => {
        const bytes = writeGlb(name, meshesOf(figure.ropes, form, this.theme.look()), named);
        this.save(bytes as Uint8Array<ArrayBuffer>, 'model/gltf-binary', '.glb');
      },
    );
  }
}

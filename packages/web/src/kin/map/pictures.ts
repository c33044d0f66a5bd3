/** Pictures of knots for the map: those of the shelf by their address, those of the pattern book drawn here, each once. */
import { drawFigure, finishedFigure, heartBox, toSvg } from '@foxtrail/core';
import { patternOf } from '@foxtrail/pattern-book';

/** Width of a picture, in pixels. */
const WIDTH = 240;

export class Pictures {
  private readonly known = new Map<string, string>();

  /** The address of the picture of a knot or a pattern. */
  of(ref: string): string {
    const found = this.known.get(ref) ?? addressOf(ref);
    this.known.set(ref, found);
    return found;
  }

  close(): void {
    for (const address of this.known.values()) if (address.startsWith('blob:')) URL.revokeObjectURL(address);
    this.known.clear();
  }
}

function addressOf(ref: string): string {
  const [sort, id = ''] = ref.split(':');
  const pattern = sort === 'pattern' ? patternOf(id) : undefined;
  if (!pattern) return `/api/knots/${id}/thumbnail.svg`;
  const figure = finishedFigure(pattern.knot.method);
  const { name } = pattern.knot;
  const svg = toSvg(drawFigure(figure), { title: name, description: name, box: heartBox(figure), width: WIDTH });
  return URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
}

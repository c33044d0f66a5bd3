/** Paints a drawing's pieces into an SVG group; only pieces that have changed are painted anew. */
import { svgPieces, type Box, type Drawing, type Look } from '@foxtrail/core';

const SVG = 'http://www.w3.org/2000/svg';
let count = 0;

export class Painter {
  /** Ids within a drawing are the page's: every painter has its own. */
  private readonly prefix = `figure${(count += 1)}-`;
  private painted: readonly string[] = [];

  /** The pieces come from the core, which writes the words of callouts as text only, never as markup. */
  paint(into: SVGGElement, drawing: Drawing, look: Look, box: Box, numbered = true): void {
    const pieces = svgPieces(drawing, look, this.prefix, box, numbered);
    while (into.childElementCount > pieces.length) into.lastElementChild?.remove();
    while (into.childElementCount < pieces.length) into.append(document.createElementNS(SVG, 'g'));
    pieces.forEach((piece, i) => {
      if (piece !== this.painted[i]) (into.children[i] as Element).innerHTML = piece;
    });
    this.painted = pieces;
  }
}

/** How the map is drawn: in the colours of the page's theme, families as names, knots as names or, near enough, as figures. */
import type cytoscape from 'cytoscape';

/** Sizes of names, in pixels at the map's own scale. */
export const KNOT_SIZE = 17;
export const FAMILY_SIZE = 22;
/** Typefaces of names. */
export const KNOT_FONT = 'Atkinson Hyperlegible Next Variable';
export const FAMILY_FONT = 'Fraunces Variable';

/** The sheet of the map, with its colours read from the place that it is drawn in. */
export function mapLook(place: HTMLElement): cytoscape.StylesheetJson {
  const colour = (name: string): string => {
    // A new element each time: on one that is there already a change of colour may still be under way.
    const probe = document.createElement('span');
    probe.style.color = `var(--${name})`;
    place.append(probe);
    const found = getComputedStyle(probe).color;
    probe.remove();
    return found;
  };
  const font = `${KNOT_FONT}, sans-serif`;
  return [
    {
      selector: 'node.knot',
      style: {
        label: 'data(name)',
        shape: 'round-rectangle',
        width: 'data(width)',
        height: 40,
        'background-color': colour('card'),
        'border-width': 1.5,
        'border-color': colour('mat-sys-outline'),
        color: colour('ink'),
        'font-family': font,
        'font-size': KNOT_SIZE,
        'text-valign': 'center',
      },
    },
    { selector: 'node.book', style: { 'border-style': 'dashed', 'background-color': colour('bench') } },
    {
      selector: 'node.near',
      style: {
        width: 92,
        height: 66,
        'background-color': colour('paper'),
        'background-fit': 'contain',
        'text-valign': 'bottom',
        'text-margin-y': 4,
        'text-wrap': 'wrap',
        'text-max-width': '120px',
        'font-size': 12,
      },
    },
    {
      selector: 'node.family',
      style: {
        label: 'data(name)',
        shape: 'round-rectangle',
        width: 'data(width)',
        height: 44,
        'background-color': colour('bar'),
        color: colour('bar-ink'),
        'font-family': `${FAMILY_FONT}, serif`,
        'font-size': FAMILY_SIZE,
        'font-weight': 600,
        'text-valign': 'center',
      },
    },
    { selector: 'edge.member', style: { width: 1, 'line-color': colour('line'), 'curve-style': 'haystack' } },
    {
      selector: 'edge.kin',
      style: {
        width: 2.5,
        label: 'data(kind)',
        'min-zoomed-font-size': 10.5,
        'font-size': 14,
        'font-family': font,
        color: colour('ink'),
        'text-background-color': colour('bench'),
        'text-background-opacity': 0.9,
        'text-background-padding': '2px',
        'curve-style': 'bezier',
        'target-arrow-shape': 'triangle',
        'line-color': colour('ink-soft'),
        'target-arrow-color': colour('ink-soft'),
      },
    },
    {
      selector: 'edge.proved',
      style: { 'line-color': colour('moss'), 'target-arrow-color': colour('moss') },
    },
    { selector: 'edge.judged', style: { 'line-style': 'dashed' } },
    { selector: 'edge.open, edge.waiting', style: { 'line-style': 'dotted' } },
    {
      selector: 'edge.refuted',
      style: {
        'line-color': colour('plum'),
        'target-arrow-color': colour('plum'),
        'target-arrow-shape': 'tee',
        'line-style': 'dashed',
      },
    },
    { selector: '.out', style: { display: 'none' } },
    { selector: '.faded', style: { opacity: 0.25 } },
    { selector: 'node.picked', style: { 'border-width': 4, 'border-color': colour('fox') } },
  ];
}

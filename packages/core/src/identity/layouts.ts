/**
 * Layouts and methods held against each other: whether a knot laid anew is still the same knot, and whether several ways to tie it end
 * in the same one.
 */
import type { Finding } from '../findings/finding.js';
import { applyEdit } from '../figure/edit.js';
import type { Figure } from '../figure/figure.js';
import type { Result } from '../figure/refusal.js';
import { sayRefusal } from '../figure/refusal.js';
import {
  extentsAtStart,
  finishedFigure,
  layoutsOf,
  stepsOf,
  truncate,
  type Layout,
  type Method,
} from '../tying/method.js';
import { compareFigures, type Comparison, type Relation } from './compare.js';

/** What was found when a knot was held against itself laid otherwise. */
export interface Held {
  /** Both drawings show one knot; also seen from behind. */
  readonly same: boolean;
  /** They could not be compared: they may be one knot or two. */
  readonly undecided?: boolean;
  readonly relation?: Relation;
  readonly proved: boolean;
  /** One sentence: what was compared, and what came of it. */
  readonly evidence: string;
  /** Facts that do not agree, in sentences. */
  readonly differ: readonly string[];
}

/** Of a layout laid anew: how it stands to the one before. */
export interface RelayProof extends Held {
  /** Index of the layout. */
  readonly layout: number;
  /** Hosts that are there before and not after. */
  readonly takenOut: readonly string[];
  /** Hosts that are there after and not before: loops were dropped over a post. */
  readonly putIn: readonly string[];
  /** The author states what passes what on the way, so it need not be the same knot. */
  readonly stated?: string | undefined;
}

/** Of another method: how the knot it ends in stands to that of the first. */
export interface MethodProof extends Held {
  readonly name: string;
}

function held(compared: Result<Comparison>): Held {
  if (!compared.ok) return { same: false, undecided: true, proved: false, evidence: sayRefusal(compared), differ: [] };
  const { relation, proved, evidence, marks } = compared.value;
  return {
    same: relation === 'same' || relation === 'same from behind',
    relation,
    proved,
    evidence: `${HOW[relation]} ${evidence}`,
    differ: marks.filter((m) => !m.agrees).map((m) => m.text),
  };
}

const HOW: Readonly<Record<Relation, string>> = {
  same: 'The same knot.',
  'same from behind': 'The same knot, turned over.',
  mirror: 'The mirror image: a knot of the other hand.',
  'same, a tail laid to the other side': 'The same knot but for a tail that lies to the other side.',
  'same body, other ends': 'The same body, with other ends loaded.',
  different: 'Not the same knot.',
};

/** The figure without hosts that are not in both layouts: a hand that was wrapped round is taken out, a post is put into loops. */
function withoutHosts(figure: Figure, gone: readonly string[]): Figure {
  return gone.reduce((f, host) => {
    const done = applyEdit(f, { kind: 'remove-host', host });
    return done.ok ? done.value.figure : f;
  }, figure);
}

/** A layout as it is when it begins: what its leaders lay is not laid yet. */
const beginning = (layout: Layout): Figure => truncate(layout.figure, extentsAtStart(layout));

const proofs = new WeakMap<Layout, { readonly before: Layout; readonly proof: RelayProof }>();

/** For every layout after the first: is it still the same knot? */
export function relayProofs(method: Method): readonly RelayProof[] {
  const layouts = layoutsOf(method);
  return layouts.slice(1).map((layout, i) => {
    const before = layouts[i] as Layout;
    const known = proofs.get(layout);
    if (known?.before === before) return { ...known.proof, layout: i + 1 };
    const lacking = (a: Layout, b: Layout): string[] =>
      a.figure.hosts.map((h) => h.id).filter((id) => !b.figure.hosts.some((h) => h.id === id));
    const [takenOut, putIn] = [lacking(before, layout), lacking(layout, before)];
    const proof: RelayProof = {
      layout: i + 1,
      takenOut,
      putIn,
      stated: layout.passes,
      ...held(
        compareFigures(
          withoutHosts(beginning(layout), putIn),
          withoutHosts(before.figure, takenOut),
          'the layout before',
        ),
      ),
    };
    proofs.set(layout, { before, proof });
    return proof;
  });
}

/** For every other method: does it end in the knot that the first one ends in? */
export const methodProofs = (
  method: Method,
  others: readonly { readonly name: string; readonly method: Method }[],
): readonly MethodProof[] =>
  others.map((o) => ({
    name: o.name,
    ...(finishedFigure(o.method).ropes.length === 0
      ? { same: false, proved: false, evidence: 'Nothing is laid yet.', differ: [] }
      : held(compareFigures(finishedFigure(o.method), finishedFigure(method), 'the first method'))),
  }));

/** What is found against layouts and methods: on the way from one to the next the knot became another. */
export function layoutFindings(
  method: Method,
  others: readonly { readonly name: string; readonly method: Method }[] = [],
): Finding[] {
  const changed = relayProofs(method)
    .filter((p) => !p.same && p.stated === undefined)
    .map((p): Finding => {
      const name = layoutsOf(method)[p.layout]?.name ?? `layout ${p.layout + 1}`;
      const layout = { layout: p.layout, step: stepsOf(method).find((s) => s.layout === p.layout)?.index };
      if (p.undecided)
        return {
          code: 'undecided',
          severity: 'warning',
          title: `Whether “${name}” is the knot of the layout before is not decided`,
          why: p.evidence,
          remedy: 'Draw both with fewer strands side by side, or say in the layout’s head what passes what.',
          ...layout,
        };
      return {
        code: 'another-knot',
        severity: 'error',
        title: `“${name}” is not the knot of the layout before`,
        why: [p.evidence, ...p.differ.slice(0, 2)].join(' '),
        remedy: 'Undo what passed a strand through another, or say in the layout’s head what passes what.',
        ...layout,
      };
    });
  const differing = methodProofs(method, others)
    // What is not laid yet is not wrong yet.
    .filter((p, i) => !p.same && finishedFigure((others[i] as { method: Method }).method).ropes.length > 0)
    .map((p): Finding =>
      p.undecided
        ? {
            code: 'undecided',
            severity: 'warning',
            title: `Whether “${p.name}” ends in the same knot is not decided`,
            why: p.evidence,
            remedy: 'Draw the finished knot with fewer strands side by side.',
          }
        : {
            code: 'methods-differ',
            severity: 'error',
            title: `“${p.name}” ends in another knot`,
            why: [p.evidence, ...p.differ.slice(0, 2)].join(' '),
            remedy: 'Mend that method, or give its knot an entry of its own.',
          },
    );
  return [...changed, ...differing];
}

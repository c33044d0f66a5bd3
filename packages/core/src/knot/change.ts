/**
 * The one way in which a knot is changed. An edit says what to do; where it is done is said beside it: which of the knot's methods,
 * and which layout of that method.
 */
import { ropeOf } from '../figure/figure.js';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';
import type { LayoutEdit } from '../tying/layout-edit.js';
import { changeMethod, type MethodEdit } from '../tying/method-edit.js';
import { layoutsOf, type Method } from '../tying/method.js';
import { nameSchema, NAME_LIMIT } from '../words/plain-text.js';
import type { KnotDocument, NamedMethod } from './document.js';
import { OTHER_METHODS, type Entry } from './entry.js';
import { methodsOf, withMethods } from './methods.js';

export type KnotEdit =
  | LayoutEdit
  | MethodEdit
  | { readonly kind: 'entry'; readonly name: string; readonly entry: Entry }
  /** One more way to tie the knot, the last in order. */
  | { readonly kind: 'add-method'; readonly name: string; readonly method: Method }
  | { readonly kind: 'remove-method' }
  | { readonly kind: 'name-method'; readonly name: string }
  /** The method that learners see first. */
  | { readonly kind: 'first-method' }
  /** The whole knot as it was at another time, or as other hands have rewritten it. */
  | { readonly kind: 'replace'; readonly knot: KnotDocument };

/** Where an edit is done: indices of a method of the knot, and of a layout of that method. */
export interface LayoutPlace {
  readonly method: number;
  readonly layout: number;
}

export const FIRST_LAYOUT: LayoutPlace = { method: 0, layout: 0 };

/** The knot after an edit. The knot given is never changed; what did not change is shared with it. */
export function change(
  knot: KnotDocument,
  { method: index, layout }: LayoutPlace,
  edit: KnotEdit,
): Result<KnotDocument> {
  const methods = methodsOf(knot);
  const own = methods[index];
  if (!own) return refuse('method', 'There is no such method.', 'Choose one of the knot’s methods.');
  const others = methods.filter((m) => m !== own);
  const exchanged = (next: NamedMethod): KnotDocument =>
    withMethods(
      knot,
      methods.map((m) => (m === own ? next : m)),
    );
  switch (edit.kind) {
    case 'entry':
      return accept({ ...knot, name: edit.name, entry: edit.entry });
    case 'add-method':
      if (methods.length > OTHER_METHODS)
        return refuse('method', `A knot has ${OTHER_METHODS + 1} methods at most.`, 'Take one out first.');
      return (
        nameTrouble(methods, edit.name) ??
        accept(withMethods(knot, [...methods, { name: edit.name.trim(), method: edit.method }]))
      );
    case 'remove-method':
      return others.length === 0
        ? refuse('method', 'A knot has one method at least.', 'Remove its rope instead, or archive the knot.')
        : accept(withMethods(knot, others));
    case 'name-method':
      return nameTrouble(others, edit.name) ?? accept(exchanged({ ...own, name: edit.name.trim() }));
    case 'first-method':
      return accept(withMethods(knot, [own, ...others]));
    case 'replace':
      return accept(edit.knot);
    case 'set-cordage':
      return setCordage(knot, own.method, edit);
    default: {
      const next = changeMethod(own.method, layout, edit);
      return next.ok ? accept(exchanged({ ...own, method: next.value })) : next;
    }
  }
}

/** A rope is the same in every layout of every method: it is known by its id within a method, and by its place among the ropes elsewhere. */
function setCordage(
  knot: KnotDocument,
  own: Method,
  { rope, cordage }: Extract<KnotEdit, { readonly kind: 'set-cordage' }>,
): Result<KnotDocument> {
  const index = own.figure.ropes.findIndex((r) => r.id === rope);
  const next: NamedMethod[] = [];
  for (const named of methodsOf(knot)) {
    let { method } = named;
    const id = named.method === own ? rope : named.method.figure.ropes[index]?.id;
    for (const [layout, { figure }] of layoutsOf(method).entries()) {
      if (id === undefined || !ropeOf(figure, id)) continue;
      const done = changeMethod(method, layout, { kind: 'set-cordage', rope: id, cordage });
      if (!done.ok) return done;
      method = done.value;
    }
    next.push({ ...named, method });
  }
  return accept(withMethods(knot, next));
}

function nameTrouble(others: readonly NamedMethod[], name: string): Refusal | undefined {
  const said = name.trim();
  if (said === '') return refuse('method', 'A method needs a name.', 'Say how it is tied: “Hand-wrapped”.');
  if (said.length > NAME_LIMIT)
    return refuse('method', `A name has ${NAME_LIMIT} characters at most.`, 'Say it shorter.');
  if (!nameSchema.safeParse(said).success)
    return refuse('method', 'A name is one line of plain text.', 'Leave out the markup.');
  return others.some((m) => m.name.toLowerCase() === said.toLowerCase())
    ? refuse('method', `There is a method “${said}” already.`, 'Give it a name of its own.')
    : undefined;
}

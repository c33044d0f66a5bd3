/**
 * Edits of a knot as it is worked on: of one of its methods, of its name and entry, or a method put in or taken out.
 */
import type { Entry, KnotDocument, NamedMethod } from '../formats/figure-json.js';
import { nameSchema, NAME_LIMIT, OTHER_METHODS } from '../formats/figure-json.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { applyMethodEdit, type MethodEdit } from '../tying/method-edit.js';
import type { Method } from '../tying/method.js';

export type KnotEdit =
  | { readonly kind: 'of-method'; readonly index: number; readonly edit: MethodEdit }
  | { readonly kind: 'entry'; readonly name: string; readonly entry: Entry }
  /** One more way to tie the knot, the last in order. */
  | { readonly kind: 'add-method'; readonly name: string; readonly method: Method }
  | { readonly kind: 'remove-method'; readonly index: number }
  | { readonly kind: 'name-method'; readonly index: number; readonly name: string }
  /** The method that learners see first. */
  | { readonly kind: 'first-method'; readonly index: number }
  | { readonly kind: 'restore-knot'; readonly knot: KnotDocument };

export interface AppliedKnot {
  readonly knot: KnotDocument;
  readonly inverse: KnotEdit;
}

/** What the first method is called as long as it has no name. */
export const FIRST_METHOD = 'Method 1';

/** The ways to tie a knot, the first one first. */
export const methodsOf = ({ method, methodName, others }: KnotDocument): readonly NamedMethod[] => [
  { name: methodName ?? FIRST_METHOD, method },
  ...(others ?? []),
];

/** The knot with one of its methods in the place of the first, and no others: what is worked on, proofed and filmed at a time. */
export function knotByMethod(knot: KnotDocument, index: number): KnotDocument {
  const { others: _others, methodName: _name, ...rest } = knot;
  return { ...rest, method: methodsOf(knot)[index]?.method ?? knot.method };
}

function withMethods(knot: KnotDocument, [first, ...others]: readonly NamedMethod[]): KnotDocument {
  const { others: _others, methodName: _name, ...rest } = knot;
  const { name, method } = first as NamedMethod;
  return {
    ...rest,
    method,
    ...(name === FIRST_METHOD ? {} : { methodName: name }),
    ...(others.length > 0 ? { others } : {}),
  };
}

/** Applies an edit. The knot given is never changed; the inverse holds what it needs of it. */
export function applyKnotEdit(knot: KnotDocument, edit: KnotEdit): Result<AppliedKnot> {
  const methods = methodsOf(knot);
  const done = (next: KnotDocument): Result<AppliedKnot> =>
    accept({ knot: next, inverse: { kind: 'restore-knot', knot } });
  if ('index' in edit && !methods[edit.index])
    return refuse('method', 'There is no such method.', 'Choose one of the knot’s methods.');
  switch (edit.kind) {
    case 'of-method': {
      const applied = applyMethodEdit((methods[edit.index] as NamedMethod).method, edit.edit);
      if (!applied.ok) return applied;
      return accept({
        knot: withMethods(
          knot,
          methods.map((m, i) => (i === edit.index ? { ...m, method: applied.value.method } : m)),
        ),
        inverse: { ...edit, edit: applied.value.inverse },
      });
    }
    case 'entry':
      return accept({
        knot: { ...knot, name: edit.name, entry: edit.entry },
        inverse: { kind: 'entry', name: knot.name, entry: knot.entry },
      });
    case 'add-method': {
      if (methods.length > OTHER_METHODS)
        return refuse('method', `A knot has ${OTHER_METHODS + 1} methods at most.`, 'Take one out first.');
      const trouble = nameTrouble(methods, edit.name);
      return trouble ?? done(withMethods(knot, [...methods, { name: edit.name.trim(), method: edit.method }]));
    }
    case 'remove-method':
      if (methods.length === 1)
        return refuse('method', 'A knot has one method at least.', 'Remove its rope instead, or archive the knot.');
      return done(
        withMethods(
          knot,
          methods.filter((_, i) => i !== edit.index),
        ),
      );
    case 'name-method': {
      const trouble = nameTrouble(
        methods.filter((_, i) => i !== edit.index),
        edit.name,
      );
      return (
        trouble ??
        done(
          withMethods(
            knot,
            methods.map((m, i) => (i === edit.index ? { ...m, name: edit.name.trim() } : m)),
          ),
        )
      );
    }
    case 'first-method':
      return done(
        withMethods(knot, [methods[edit.index] as NamedMethod, ...methods.filter((_, i) => i !== edit.index)]),
      );
    case 'restore-knot':
      return done(edit.knot);
  }
}

function nameTrouble(others: readonly NamedMethod[], name: string): ReturnType<typeof refuse> | undefined {
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

/**
 * Edits of a method: of one of its layouts, or a layout put in, taken out or named.
 */
import { LAYOUT_LIMIT, NAME_LENGTH } from './limits.js';
import { acrossFigures } from '../figure/across.js';
import { lastAt } from '../figure/figure.js';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';
import { changeLayout, type LayoutEdit } from './layout-edit.js';
import { layoutsOf, type Layout, type Leader, type Method } from './method.js';
import { followShown } from '../dressing/shown.js';
import { carrySteps } from './carry-steps.js';
import { reelsTrouble, type Reel } from './reels.js';
import { carryTelling } from './telling.js';

/** Edits of which layouts a method has; each but the first is of the layout that is named with it. */
export type MethodEdit =
  /** The knot laid anew: a copy of the last layout, all laid, to be drawn otherwise. */
  | { readonly kind: 'add-layout'; readonly name: string }
  | { readonly kind: 'remove-layout' }
  | { readonly kind: 'name-layout'; readonly name: string }
  /** What passes what on the way to a layout, when it is not the same knot; `undefined` takes it back. */
  | { readonly kind: 'state-passes'; readonly passes: string | undefined }
  /** The demonstrations of the method; none takes them all out. */
  | { readonly kind: 'set-reels'; readonly reels: readonly Reel[] };

/** A method with one of its layouts exchanged. */
const withLayout = (method: Method, index: number, layout: Layout): Method =>
  methodOf(layoutsOf(method).map((l, i) => (i === index ? layout : l)));

/** One layout as a method of its own: what is drawn on at a time. */
export function methodOfLayout(method: Method, index: number): Method {
  const { relaid: _others, reels: _reels, ...own } = (layoutsOf(method)[index] ?? method) as Method;
  return own;
}

const noLayout = (): Refusal => refuse('layout', 'There is no such layout.', 'Choose one in the step column.');

/** A method from its layouts, the first of them its own. */
function methodOf([first, ...relaid]: readonly Layout[]): Method {
  const { relaid: _old, ...own } = first as Method;
  return relaid.length > 0 ? { ...own, relaid } : own;
}

/** A method after an edit of one of its layouts, named by its index, or of which layouts there are. The method given is never changed. */
export function changeMethod(method: Method, index: number, edit: LayoutEdit | MethodEdit): Result<Method> {
  if (edit.kind === 'set-reels') {
    const { reels: _old, ...rest } = method;
    const { reels } = edit;
    return reelsTrouble(method, reels) ?? accept(reels.length > 0 ? { ...rest, reels } : rest);
  }
  const done = changeLayouts(method, index, edit);
  return done.ok ? accept(carrySteps(method, done.value)) : done;
}

function changeLayouts(
  method: Method,
  index: number,
  edit: LayoutEdit | Exclude<MethodEdit, { readonly kind: 'set-reels' }>,
): Result<Method> {
  const layouts = layoutsOf(method);
  if (!layouts[index]) return noLayout();
  switch (edit.kind) {
    case 'add-layout': {
      if (layouts.length >= LAYOUT_LIMIT)
        return refuse('layout', `A method has ${LAYOUT_LIMIT} layouts at most.`, 'Take one out first.');
      const { finish, marks, exhibits, footage, ...last } = layouts.at(-1) as Layout;
      if (last.figure.ropes.length === 0)
        return refuse('layout', 'There is nothing laid to be laid anew.', 'Lay the knot first.');
      const leaders = last.figure.ropes.flatMap((r): Leader[] =>
        r.closed ? [] : [{ kind: 'end', rope: r.id, from: lastAt(r) }],
      );
      // What finishes the knot, and what is shown of it, goes with the layout in which it is finished.
      const layout: Layout = {
        name: edit.name,
        figure: last.figure,
        leaders,
        halts: [],
        ...(finish ? { finish } : {}),
        ...(marks ? { marks } : {}),
        ...(exhibits ? { exhibits } : {}),
        ...(footage ? { footage } : {}),
      };
      return accept(methodOf([...layouts.slice(0, -1), last, layout]));
    }
    case 'remove-layout': {
      if (index === 0) return refuse('layout', 'The first layout is the method itself.', 'Take out another one.');
      const gone = layouts[index];
      const rest = layouts.filter((l) => l !== gone);
      const last = rest.at(-1) as Layout;
      const across = acrossFigures(gone.figure, last.figure);
      return accept(
        methodOf([
          ...rest.slice(0, -1),
          {
            ...(last.marks || last.exhibits || last.footage ? {} : followShown(gone, gone.figure, last.figure, across)),
            ...last,
            ...(gone.finish && !last.finish ? { finish: gone.finish.map((f) => carryTelling(f, across)) } : {}),
          },
        ]),
      );
    }
    case 'name-layout':
    case 'state-passes': {
      const { [edit.kind === 'name-layout' ? 'name' : 'passes']: _old, ...rest } = layouts[index];
      const said = (edit.kind === 'name-layout' ? edit.name : (edit.passes ?? '')).trim();
      if (said.length > NAME_LENGTH)
        return refuse('layout', `${NAME_LENGTH} characters are the most.`, 'Say it shorter.');
      return accept(
        withLayout(
          method,
          index,
          said === '' ? (rest as Layout) : { ...rest, [edit.kind === 'name-layout' ? 'name' : 'passes']: said },
        ),
      );
    }
    default: {
      const next = changeLayout(layouts[index], edit);
      return next.ok ? accept(withLayout(method, index, next.value)) : next;
    }
  }
}

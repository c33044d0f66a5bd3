/**
 * What can be done on the bench: one table that the tool buttons, the keys and the key sheet are made from.
 */
import type { BenchStore } from '../knot/bench-store';
import type { DraftState } from './draft-state';
import type { Handling } from './handling';
import type { Laying } from './laying';
import type { LayingTools } from './laying-tools';
import { HAND_MOVES } from './move-tool';
import type { StepTools } from './steps/step-tools';
import type { Tidying } from './tidying';
import type { UnderKey } from './under-key';
import type { WeaveWalk } from './weave-walk';

/** What commands are done with: the bench's services, and what only its screen can do. */
export interface DraftDesk {
  readonly state: DraftState;
  readonly store: BenchStore;
  readonly tools: LayingTools;
  readonly stepTools: StepTools;
  readonly laying: Laying;
  readonly underKey: UnderKey;
  readonly handling: Handling;
  readonly weaveWalk: WeaveWalk;
  readonly tidying: Tidying;
  take(tool: 'lay' | 'points'): void;
  openHosts(): void;
  choosePicture(): void;
  openRope(): unknown;
  /** The drawing as it lies in the hand. */
  openForm(): void;
  /** The chosen host thicker or thinner; else the board closer or farther off. */
  larger(way: 1 | -1): void;
  wholeFigure(): void;
  letGo(): void;
  showKeys(): void;
}

/** The headings of the key sheet. */
export const COMMAND_GROUPS = ['Laying', 'Tying', 'Mending', 'Steps'] as const;
export type CommandGroup = (typeof COMMAND_GROUPS)[number];

/** The parts of the row of tools, in order. */
export const TOOL_SECTIONS = ['hand', 'laying tools', 'things', 'back'] as const;
export type ToolSection = (typeof TOOL_SECTIONS)[number];

export interface Command {
  readonly id: string;
  /** Keys that do it, as the browser names them in lower case; `shift+` before those that want it. */
  readonly keys: readonly string[];
  /** How the key is written on its button and on the key sheet. */
  readonly shown: string;
  /** Its line on the key sheet; none where another command's line tells it. */
  readonly says?: string;
  readonly group?: CommandGroup;
  /** Its button among the tools. */
  readonly button?: { readonly name: string; readonly section: ToolSection };
  /** Whether its button is shown pressed; absent where it is no switch. */
  readonly on?: (desk: DraftDesk) => boolean;
  /** When it can be done; absent: always. */
  readonly when?: (desk: DraftDesk) => boolean;
  readonly does: (desk: DraftDesk) => void;
}

const layingTool = (
  kind: 'wrap' | 'retrace' | 'bight' | 'twist',
  key: string,
  name: string,
  says: string,
): Command => ({
  id: kind,
  keys: [key],
  shown: key.toUpperCase(),
  group: 'Tying',
  says,
  button: { name, section: 'laying tools' },
  on: ({ tools }) => tools.kind() === kind,
  does: ({ tools }) => tools.take(kind),
});

/** A move by its key; the button takes the one that was in hand last. */
const moveCommand = ({ kind, name }: (typeof HAND_MOVES)[number], i: number): Command => ({
  id: `move-${kind}`,
  keys: [String(i + 1)],
  shown: String(i + 1),
  group: 'Tying',
  says: `${name}: then press the part`,
  does: ({ tools }) => tools.takeMove(kind),
});

export const COMMANDS: readonly Command[] = [
  {
    id: 'lay',
    keys: ['l'],
    shown: 'L',
    group: 'Laying',
    says: 'Lay: drag, or click point by point',
    button: { name: 'Lay', section: 'hand' },
    on: ({ state, tools }) => state.tool() === 'lay' && !state.newRope() && tools.kind() === null,
    does: (desk) => desk.take('lay'),
  },
  {
    id: 'points',
    keys: ['p'],
    shown: 'P',
    group: 'Mending',
    says: 'Points: move, add (press on the rope), remove',
    button: { name: 'Points', section: 'hand' },
    on: ({ state, tools }) => state.tool() === 'points' && tools.kind() === null,
    does: (desk) => desk.take('points'),
  },
  {
    id: 'under',
    keys: ['u'],
    shown: 'U',
    group: 'Laying',
    says: 'Hold: the end passes under. Tap: stays so until tapped again',
    button: { name: 'Under', section: 'hand' },
    on: ({ underKey }) => underKey.under(),
    does: ({ underKey }) => underKey.press(),
  },
  {
    id: 'weave',
    keys: ['a'],
    shown: 'A',
    group: 'Laying',
    says: 'Weave: over and under by turns',
    button: { name: 'Weave', section: 'hand' },
    on: ({ underKey }) => underKey.weaving(),
    does: ({ underKey }) => underKey.toggleWeaving(),
  },
  {
    id: 'swap',
    keys: ['x'],
    shown: 'X',
    group: 'Mending',
    says: 'Swap the crossing pointed at',
    button: { name: 'Swap', section: 'hand' },
    does: ({ handling }) => handling.swapPointed(),
  },
  {
    id: 'walk',
    keys: ['k'],
    shown: 'K',
    group: 'Mending',
    says: 'Weave walk: from crossing to crossing, O over, U under',
    button: { name: 'Walk', section: 'hand' },
    on: ({ state }) => state.walking(),
    does: ({ weaveWalk }) => weaveWalk.toggle(),
  },
  {
    id: 'move',
    keys: [],
    shown: '1–7',
    button: { name: 'Move', section: 'laying tools' },
    on: ({ tools }) => tools.kind() === 'move',
    does: ({ tools }) => (tools.kind() === 'move' ? tools.put() : tools.takeMove(tools.moves.kind())),
  },
  ...HAND_MOVES.map(moveCommand),
  layingTool('wrap', 't', 'Wrap', 'Wrap: turns round what is pressed on; again to change them'),
  layingTool('retrace', 'f', 'Retrace', 'Retrace: follow a stretch at one rope’s distance'),
  layingTool('bight', 'g', 'Bight', 'Bight: draw both legs at once'),
  layingTool('twist', 'q', 'Twist', 'Twist a part by half turns'),
  {
    id: 'new-rope',
    keys: ['n'],
    shown: 'N',
    group: 'Laying',
    says: 'Begin a new rope',
    button: { name: 'New rope', section: 'things' },
    on: ({ state }) => state.newRope(),
    does: ({ laying }) => laying.startNewRope(),
  },
  {
    id: 'host',
    keys: ['b'],
    shown: 'B',
    group: 'Laying',
    says: 'Lay a host: spar, post, ring, carabiner, hook, hand',
    button: { name: 'Host', section: 'things' },
    does: (desk) => desk.openHosts(),
  },
  {
    id: 'sling',
    keys: ['j'],
    shown: 'J',
    group: 'Laying',
    says: 'Join the ends to a sling, or open it',
    button: { name: 'Sling', section: 'things' },
    does: ({ handling }) => handling.toggleClosed(),
  },
  {
    id: 'eye',
    keys: ['e'],
    shown: 'E',
    group: 'Laying',
    says: 'The loop at the chosen place is an eye, meant to stay',
    button: { name: 'Eye', section: 'things' },
    does: ({ handling }) => handling.toggleEye(),
  },
  {
    id: 'end',
    keys: ['o'],
    shown: 'O',
    group: 'Laying',
    says: 'What the chosen end is: tail, trimmed, standing part, off',
    button: { name: 'End', section: 'things' },
    does: ({ handling }) => handling.turnEnd(),
  },
  {
    id: 'trace',
    keys: [],
    shown: 'photo',
    button: { name: 'Trace', section: 'things' },
    does: (desk) => desk.choosePicture(),
  },
  {
    id: 'settle',
    keys: ['s'],
    shown: 'S',
    group: 'Tying',
    says: 'Settle: drawn as rope lies, every crossing kept',
    button: { name: 'Settle', section: 'things' },
    does: ({ tidying }) => tidying.start('settle'),
  },
  {
    id: 'tidy',
    keys: ['d'],
    shown: 'D',
    group: 'Tying',
    says: 'Tidy: drawn evenly, every crossing kept',
    does: ({ tidying }) => tidying.start('tidy'),
  },
  {
    id: 'tighten',
    keys: ['shift+d'],
    shown: '⇧ D',
    group: 'Tying',
    says: 'Tighten: drawn close, flat on the board',
    does: ({ tidying }) => tidying.start('tighten'),
  },
  {
    id: 'set',
    keys: ['shift+t'],
    shown: '⇧ T',
    group: 'Tying',
    says: 'Set: the knot as it lies in the hand, from every side',
    button: { name: 'Set', section: 'things' },
    does: (desk) => desk.openForm(),
  },
  {
    id: 'reverse',
    keys: ['r'],
    shown: 'R',
    group: 'Laying',
    says: 'Reverse the rope in hand',
    button: { name: 'Reverse', section: 'things' },
    does: ({ handling }) => handling.reverse(),
  },
  {
    id: 'other-end',
    keys: ['shift+l'],
    shown: '⇧ L',
    group: 'Laying',
    says: 'Lay with the rope’s other end (or drag from it)',
    does: ({ state }) => state.takeOtherEnd(),
  },
  {
    id: 'break',
    keys: ['/'],
    shown: '/',
    group: 'Laying',
    says: 'Break: drawn short at the chosen place, + − count it',
    does: ({ handling }) => handling.toggleBreak(),
  },
  {
    id: 'rope',
    keys: ['shift+r'],
    shown: '⇧ R',
    group: 'Laying',
    says: 'What the rope in hand is: name, diameter, colour',
    does: (desk) => desk.openRope(),
  },
  {
    id: 'turn-over',
    keys: ['shift+e'],
    shown: '⇧ E',
    group: 'Laying',
    says: 'Turn flat webbing over at the chosen place',
    does: ({ handling }) => handling.turnOver(),
  },
  {
    id: 'all',
    keys: ['control+a'],
    shown: 'Ctrl A',
    group: 'Mending',
    says: 'Choose all; in Points, a drag on the board chooses a part',
    does: ({ handling }) => handling.chooseAll(),
  },
  { id: 'turn-part-back', keys: ['<', 'shift+<'], shown: '<', does: ({ handling }) => handling.turnPart(-1) },
  {
    id: 'turn-part',
    keys: ['>', 'shift+>'],
    shown: '<  >',
    group: 'Mending',
    says: 'Turn what is chosen (+ − size it, arrows move it)',
    does: ({ handling }) => handling.turnPart(1),
  },
  {
    id: 'mirror-part',
    keys: ['shift+m'],
    shown: '⇧ M',
    group: 'Mending',
    says: 'Mirror the whole drawing: the other hand',
    does: ({ handling }) => handling.mirrorPart(),
  },
  {
    id: 'remove',
    keys: ['delete', 'backspace'],
    shown: 'Del',
    group: 'Mending',
    says: 'Remove what is chosen',
    button: { name: 'Remove', section: 'things' },
    does: ({ handling }) => handling.removeChosen(),
  },
  {
    id: 'undo',
    keys: ['z', 'control+z'],
    shown: 'Z',
    group: 'Mending',
    says: 'Undo (Ctrl works too)',
    button: { name: 'Undo', section: 'back' },
    when: ({ store }) => store.canUndo(),
    does: ({ store }) => store.undo(),
  },
  {
    id: 'redo',
    keys: ['y', 'control+y', 'shift+z', 'control+shift+z'],
    shown: 'Y',
    group: 'Mending',
    says: 'Redo',
    button: { name: 'Redo', section: 'back' },
    when: ({ store }) => store.canRedo(),
    does: ({ store }) => store.redo(),
  },
  {
    id: 'larger',
    keys: ['+', '=', 'shift++'],
    shown: '+  −',
    group: 'Tying',
    says: 'Size of the chosen host; else closer, farther off',
    does: (desk) => desk.larger(1),
  },
  { id: 'smaller', keys: ['-'], shown: '−', does: (desk) => desk.larger(-1) },
  {
    id: 'whole-figure',
    keys: ['0'],
    shown: '0',
    group: 'Tying',
    says: 'The whole figure (wheel, two fingers or middle button move the board)',
    does: (desk) => desk.wholeFigure(),
  },
  { id: 'point-back', keys: ['['], shown: '[', does: ({ handling }) => handling.stepPoint(-1) },
  {
    id: 'point-on',
    keys: [']'],
    shown: '[  ]',
    group: 'Mending',
    says: 'Previous, next point; arrows move it',
    does: ({ handling }) => handling.stepPoint(1),
  },
  {
    id: 'insert-point',
    keys: ['i'],
    shown: 'I',
    group: 'Mending',
    says: 'Insert a point after the chosen one',
    does: ({ handling }) => handling.insertPoint(),
  },
  {
    id: 'crossing-on',
    keys: ['w'],
    shown: 'W',
    group: 'Mending',
    says: 'Next crossing (Shift: previous)',
    does: ({ handling }) => handling.stepCrossing(1),
  },
  { id: 'crossing-back', keys: ['shift+w'], shown: '⇧ W', does: ({ handling }) => handling.stepCrossing(-1) },
  {
    id: 'halt',
    keys: ['h'],
    shown: 'H',
    group: 'Steps',
    says: 'Place a halt at the chosen place, or at the end',
    does: ({ handling }) => handling.placeHalt(),
  },
  { id: 'step-back', keys: [','], shown: ',', does: ({ stepTools }) => stepTools.showNext(-1) },
  {
    id: 'step-on',
    keys: ['.'],
    shown: ',  .',
    group: 'Steps',
    says: 'Previous, next step',
    does: ({ stepTools }) => stepTools.showNext(1),
  },
  {
    id: 'call-out',
    keys: ['c'],
    shown: 'C',
    group: 'Steps',
    says: 'Call out what is pointed at, in the step shown',
    does: ({ stepTools }) => stepTools.callOut(),
  },
  {
    id: 'light',
    keys: ['shift+s'],
    shown: '⇧ S',
    group: 'Steps',
    says: 'Light the stretch about the chosen place, or put it out',
    does: ({ stepTools }) => stepTools.light(),
  },
  {
    id: 'next-layout',
    keys: ['m'],
    shown: 'M',
    group: 'Steps',
    says: 'Next layout: open, dressed …',
    does: ({ state }) => state.nextLayout(),
  },
  {
    id: 'next-view',
    keys: ['v'],
    shown: 'V',
    group: 'Steps',
    says: 'Front, back, left-handed',
    does: ({ state }) => state.nextView(),
  },
  {
    id: 'let-go',
    keys: ['escape'],
    shown: 'Esc',
    group: 'Steps',
    says: 'Let go: the whole figure',
    does: (desk) => desk.letGo(),
  },
  {
    id: 'keys',
    keys: ['?', 'shift+?'],
    shown: '?',
    group: 'Steps',
    says: 'This sheet',
    does: (desk) => desk.showKeys(),
  },
];

/** Keys that do something by what is in hand, not by themselves: on the key sheet beside the commands. */
export const OTHER_KEYS: readonly { readonly group: CommandGroup; readonly shown: string; readonly says: string }[] = [
  { group: 'Laying', shown: 'Arrows', says: 'Move the pencil by one diameter (Shift: a quarter)' },
  { group: 'Laying', shown: 'Enter', says: 'Lay the end to the pencil' },
  { group: 'Tying', shown: 'Enter', says: 'Lay what the tool proposes' },
];

const byKey = new Map(COMMANDS.flatMap((c) => c.keys.map((key) => [key, c] as const)));

/** The command that a key asks for. Shift and Control count where a command is told apart by them, and else are let pass. */
export function commandFor({
  key,
  shiftKey,
  ctrlKey,
  metaKey,
}: Pick<KeyboardEvent, 'key' | 'shiftKey' | 'ctrlKey' | 'metaKey'>): Command | undefined {
  const name = key.toLowerCase();
  if (ctrlKey || metaKey) return byKey.get(`control+${shiftKey ? 'shift+' : ''}${name}`);
  return (shiftKey ? byKey.get(`shift+${name}`) : undefined) ?? byKey.get(name);
}

/** The lines of the key sheet under each heading. */
export const keySheet = (): readonly {
  readonly title: CommandGroup;
  readonly keys: readonly { readonly shown: string; readonly says: string }[];
}[] =>
  COMMAND_GROUPS.map((title) => ({
    title,
    keys: [
      ...COMMANDS.flatMap(({ group, shown, says }) => (group === title && says !== undefined ? [{ shown, says }] : [])),
      ...OTHER_KEYS.filter((k) => k.group === title),
    ],
  }));

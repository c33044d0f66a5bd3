/**
 * The knots of the book as concepts of the glossary: every pattern that is a knot by itself brings one, with its names by school.
 */
import { concept, uncapital, type Concept, type Names } from '@foxtrail/core';
import { SOURCES } from '../sources.js';

/** The concept of a pattern. */
export const conceptOfPattern = (id: string): string => `knot-${id}`;
/** The pattern that a concept is of. */
export const patternOfConcept = (concept: string): string | undefined => /^knot-(.+)$/.exec(concept)?.[1];

/** The concept of each class that a pattern can have. */
const CLASS_CONCEPTS: Readonly<Record<string, string>> = {
  stopper: 'stopper-knot',
  'loop in the end': 'loop-knot',
  'loop in mid-rope': 'mid-rope-loop',
  noose: 'noose',
  bend: 'bend',
  hitch: 'hitch',
  binding: 'binding-knot',
  sling: 'friction-hitch',
};

const NOT_A_BEND = 'The name is also that of a bend of two ropes; said of a noose it sends learners to the wrong knot.';

/** Where schools differ on a knot's name. */
const NAMES: Readonly<Record<string, Names>> = {
  overhand: { all: 'overhand knot | overhand | simple knot', misheard: ['over hand knot', 'overhead knot'] },
  'double-overhand': { all: 'double overhand knot | two-turn overhand', camp: 'two-turn overhand | barrel knot' },
  'triple-overhand': {
    all: 'triple overhand knot | three-turn overhand',
    rescue: 'barrel knot | triple overhand knot',
  },
  noose: { all: 'noose knot | running knot', camp: 'running knot | noose knot' },
  'noose-2': { all: 'noose of two turns | two-turn noose', avoid: { 'double fisherman’s noose': NOT_A_BEND } },
  'noose-3': { all: 'noose of three turns | three-turn noose' },
  'slip-knot': { all: 'slip knot | slipped overhand', misheard: ['slit knot'] },
  'water-knot': {
    all: 'water knot | ring bend | followed overhand bend',
    marine: 'ring bend | water knot',
    rescue: 'tape knot | water knot | ring bend',
  },
  fishermans: {
    all: 'fisherman’s bend | single fisherman’s bend',
    marine: 'fisherman’s knot | fisherman’s bend',
    misheard: ['fishermen bend'],
  },
  'half-hitch': { all: 'half hitch', misheard: ['half itch', 'have hitch'] },
  'clove-hitch-backed': { all: 'backed clove hitch | clove hitch and a half hitch' },
  'clove-hitch-carabiner': {
    all: 'clove hitch on a carabiner | two loops on a carabiner',
    rescue: 'clove hitch on a carabiner | clove hitch on a connector',
    misheard: ['glove hitch on a carabiner'],
  },
  'cow-hitch-ring': { all: 'cow hitch on a ring | lark’s head on a ring' },
  'munter-hitch': {
    all: 'munter hitch | crossing hitch | Italian hitch',
    misheard: ['monster hitch', 'mounter hitch'],
  },
  'sling-hitch': { all: 'sling cow hitch | girthed sling' },
  'overhand-loop': {
    all: 'overhand loop | overhand on the bight',
    misheard: ['overhand on the bite'],
  },
  'eight-bend': {
    all: 'figure eight bend | followed eight bend',
    marine: 'Flemish bend | figure eight bend',
  },
  'double-fishermans': {
    all: 'double fisherman’s bend | double overhand bend',
    rescue: 'double fisherman’s bend | grapevine bend',
    marine: 'grapevine bend | double fisherman’s bend',
    misheard: ['double fishermen bend', 'great vine bend'],
  },
  'triple-fishermans': { all: 'triple fisherman’s bend | triple overhand bend', misheard: ['triple fishermen bend'] },
  'interlocked-overhands': { all: 'interlocked overhands | interlocked overhand bend' },
  'interlocked-overhands-mirrored': { all: 'mirrored interlocked overhands | interlocked overhands, mirrored' },
  'figure-eight': {
    all: 'figure eight knot | eight',
    marine: 'figure eight knot | Flemish knot',
    misheard: ['figure ate knot', 'figure of ate'],
  },
  stevedore: { all: 'stevedore knot | stevedore stopper', misheard: ['steve door knot'] },
  'eight-on-the-bight': {
    all: 'figure eight on the bight | eight loop',
    camp: 'eight loop',
    misheard: ['figure eight on the bite', 'figure eight on a bike'],
  },
  'followed-eight': {
    all: 'followed figure eight | rewoven eight',
    rescue: 'rewoven eight | traced eight',
    camp: 'traced eight',
  },
  'eight-two-loops': {
    all: 'figure eight with two loops | eight of two loops',
    misheard: ['figure ate with two loops'],
  },
  'directional-eight': {
    all: 'directional figure eight | in-line eight',
    misheard: ['directional figure ate'],
  },
  'half-knot': {
    all: 'half knot',
    avoid: { overhand: 'An overhand is tied in one rope; of two ends it is a half knot.' },
  },
  reef: {
    all: 'reef knot | square knot',
    camp: 'square knot | reef knot',
    misheard: ['reaf knot', 'wreath knot', 'reed knot'],
  },
  'slipped-reef': {
    all: 'slipped reef knot | slipped square knot | half bow | draw knot',
    camp: 'half bow | slipped square knot',
  },
  granny: { all: 'granny knot', misheard: ['grainy knot'] },
  thief: { all: 'thief knot | bread bag knot', misheard: ['teeth knot'] },
  grief: { all: 'grief knot | what knot' },
  'sheet-bend': {
    all: 'sheet bend | becket bend',
    workshop: 'sheet bend | weaver’s knot',
    marine: 'sheet bend | becket bend',
    misheard: ['sheep bend', 'cheat bend'],
  },
  'double-sheet-bend': { all: 'double sheet bend', marine: 'double sheet bend | double becket bend' },
  'becket-hitch': {
    all: 'becket hitch | sheet bend to an eye',
    misheard: ['bucket hitch', 'biscuit hitch'],
  },
  'sliding-stopper': { all: 'sliding stopper | sliding button' },
  'slipped-bowline': { all: 'slipped bowline', misheard: ['slipped bow line'] },
  'quick-release-hitch': { all: 'quick-release hitch | bight-through-bight hitch | quick-release bight hitch' },
  'falling-release-hitch': { all: 'falling release hitch | stopper in a half hitch' },
  'triple-sheet-bend': { all: 'triple sheet bend', misheard: ['triple sheep bend'] },
  'bowline-backed': {
    all: 'backed bowline | bowline with a two-turn overhand',
    rescue: 'bowline with a two-turn overhand back-up | backed bowline',
    misheard: ['backed bow line'],
  },
  'bowline-led-back': { all: 'bowline with the tail led back', misheard: ['bow line with the tail led back'] },
  'bowline-two-loops': { all: 'bowline with two adjustable loops | bowline of two loops' },
  'offset-overhand-bend': {
    all: 'offset overhand bend | overhand in both ropes',
    rescue: 'offset overhand bend | flat overhand bend',
  },
  'three-lobed-stopper': { all: 'three-lobed stopper', misheard: ['three load stopper'] },
  'killick-hitch': {
    all: 'killick hitch | timber hitch and a half hitch',
    marine: 'killick hitch | kelleg hitch',
    misheard: ['kill it hitch', 'click hitch'],
  },
  'one-way-wrap': { all: 'one-way wrap | one-way friction hitch | wrapped sling hitch' },
  'slipped-sheet-bend': {
    all: 'slipped sheet bend',
    marine: 'slipped sheet bend | slipped becket bend',
    misheard: ['slipped sheep bend'],
  },
  bowline: { all: 'bowline', camp: 'bowline | rescue loop', misheard: ['bow line', 'bowlin', 'bow lion', 'bowling'] },
  'bowline-outside': {
    all: 'bowline with the tail outside | cowboy bowline',
    avoid: { 'left-handed bowline': 'It is not the mirror image: only the tail lies on the other side.' },
  },
  'double-nip-bowline': {
    all: 'double-nip bowline | water bowline',
    marine: 'water bowline | double-nip bowline',
    misheard: ['water bow line'],
  },
  'running-bowline': { all: 'running bowline', misheard: ['running bow line', 'running bowling'] },
  'bowline-on-the-bight': {
    all: 'bowline on the bight',
    camp: 'bowline on the bight | double-loop bowline',
    misheard: ['bowline on the bite', 'bow line on the bight'],
  },
  'false-bowline': { all: 'false bowline | slipping bowline' },
  'carrick-bend': { all: 'carrick bend | full carrick bend', misheard: ['carrot bend', 'carriage bend'] },
  'clove-hitch': {
    all: 'clove hitch',
    rescue: 'clove hitch | double hitch',
    misheard: ['glove hitch', 'close hitch', 'cloth hitch'],
  },
  'anchor-hitch': {
    all: 'anchor hitch | anchor bend | fisherman’s hitch',
    marine: 'anchor bend | fisherman’s bend | anchor hitch',
    misheard: ['anger hitch', 'anker bend'],
  },
  'cats-paw': { all: 'cat’s paw | cat’s paw hitch', misheard: ['cat’s pour', 'cats pore'] },
  'cow-hitch': {
    all: 'cow hitch',
    rescue: 'girth hitch | cow hitch',
    camp: 'lark’s head | cow hitch',
    misheard: ['car hitch', 'larks bed'],
  },
  'two-half-hitches': { all: 'two half hitches', misheard: ['two have hitches'] },
  'reversed-half-hitches': { all: 'reversed half hitches | two half hitches, second reversed' },
  'round-turn-two-half-hitches': { all: 'round turn and two half hitches', camp: 'full wrap and two half hitches' },
  'rolling-hitch': { all: 'rolling hitch', camp: 'rolling hitch | grip hitch', misheard: ['rowing hitch'] },
  'taut-line-hitch': {
    all: 'taut-line hitch | adjustable guy hitch',
    marine: 'midshipman’s hitch | taut-line hitch',
    camp: 'guy-line hitch | taut-line hitch',
    misheard: ['taught line hitch', 'tort line hitch'],
  },
  'reversed-taut-line': { all: 'reversed taut-line hitch | taut-line hitch, last turn reversed' },
  'prusik-2': { all: 'two-wrap prusik | two-wrap friction hitch' },
  'many-wrap-hitch': { all: 'many-wrap hitch | wrapped hitch' },
  'common-whipping': {
    all: 'common whipping | plain whipping',
    misheard: ['common wiping', 'common whip in'],
  },
  'flat-seizing': {
    all: 'flat seizing | seized eye',
    misheard: ['flat ceasing', 'flat season'],
  },
  'prusik-4': { all: 'four-wrap prusik | four-wrap friction hitch' },
  prusik: {
    all: 'three-wrap prusik | three-wrap friction hitch',
    misheard: ['prussic', 'prussik', 'prusic', 'prusick'],
  },
  'timber-hitch': { all: 'timber hitch', misheard: ['timber itch'] },
  butterfly: {
    all: 'butterfly loop | lineman’s loop',
    rescue: 'butterfly loop',
    camp: 'butterfly loop | butterfly knot',
  },
  'false-butterfly': { all: 'false butterfly' },
};

/** A knot's concept from its entry in the book, where nothing else is written of it. */
const plainNames = (name: string, aliases: readonly string[]): Names => ({
  all: [name, ...aliases].map((n) => uncapital(n)).join(' | '),
});

export const KNOT_CONCEPTS: readonly Concept[] = SOURCES.map((s) =>
  concept(conceptOfPattern(s.id), 'knot', s.summary, NAMES[s.id] ?? plainNames(s.name, s.aliases ?? []), {
    broader: CLASS_CONCEPTS[s.class] === undefined ? [] : [CLASS_CONCEPTS[s.class] as string],
    related: [
      ...(s.wrongWayOf ? [conceptOfPattern(s.wrongWayOf.id)] : []),
      ...SOURCES.filter((o) => o.wrongWayOf?.id === s.id).map((o) => conceptOfPattern(o.id)),
    ],
  }),
);

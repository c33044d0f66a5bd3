/**
 * Shipped concepts: the classes of knots, and the things ropes are used with.
 */
import type { Concept } from '../glossary.js';
import { concept } from './write.js';

export const CLASSES: readonly Concept[] = [
  concept(
    'knot',
    'class',
    'Anything tied in rope; in the strict sense what is tied in the rope itself, apart from bends and hitches.',
    {
      all: 'knot',
      misheard: ['not'],
    },
  ),
  concept(
    'bend',
    'class',
    'A knot that joins two ropes.',
    { all: '~bend', camp: 'joining knot', rescue: 'joining knot | ~bend' },
    { broader: ['knot'] },
  ),
  concept(
    'hitch',
    'class',
    'A knot that holds to an object and comes apart when the object is taken out.',
    { all: 'hitch' },
    { broader: ['knot'] },
  ),
  concept(
    'loop-knot',
    'class',
    'A knot that makes a loop which does not change its size.',
    { all: 'loop knot | fixed loop', rescue: 'fixed loop | loop knot' },
    { broader: ['knot'], related: ['eye'] },
  ),
  concept(
    'mid-rope-loop',
    'class',
    'A loop knot tied without the ends.',
    { all: 'mid-rope loop', camp: 'loop in the middle' },
    { broader: ['loop-knot'] },
  ),
  concept(
    'noose',
    'class',
    'A loop that tightens when the standing part is pulled.',
    { all: 'noose', rescue: 'running loop | noose', camp: 'sliding loop' },
    { broader: ['knot'] },
  ),
  concept(
    'adjustable-loop',
    'class',
    'A loop whose size is changed by hand and which holds it under load.',
    { all: 'adjustable loop' },
    { broader: ['loop-knot'] },
  ),
  concept(
    'stopper-knot',
    'class',
    'A knot at the end that keeps the rope from running through a hole.',
    { all: 'stopper knot | stopper' },
    { broader: ['knot'] },
  ),
  concept(
    'binding-knot',
    'class',
    'A knot that holds two ends together round a thing.',
    { all: 'binding knot', camp: 'tying-up knot' },
    { broader: ['knot'] },
  ),
  concept(
    'friction-hitch',
    'class',
    'A hitch that holds by its turns and is moved along when it is not loaded.',
    { all: 'gripping hitch | friction hitch', rescue: 'friction hitch', camp: 'gripping knot' },
    { broader: ['hitch'] },
  ),
  concept('sling', 'class', 'A closed loop of cord or webbing.', {
    all: 'sling',
    marine: 'strop',
    camp: 'loop of cord',
  }),
  concept(
    'keeper',
    'class',
    'A second knot that guards the tail of the first.',
    { all: 'keeper', marine: 'keeper | stopper on the tail', rescue: 'back-up knot | keeper', camp: 'safety knot' },
    { related: ['tail', 'back-up'] },
  ),
  concept('lashing', 'class', 'Many turns that bind spars or loads together.', { all: 'lashing' }),
  concept(
    'seizing',
    'class',
    'Thin line that binds two strands of rope together.',
    { all: 'seizing', camp: '~binding' },
    { related: ['seize'] },
  ),
  concept(
    'whipping',
    'class',
    'A binding at the end of a rope against fraying.',
    { all: 'whipping', misheard: ['wiping'] },
    { related: ['whip'] },
  ),
  concept('splice', 'class', 'A joint or eye made by weaving the strands of rope.', { all: 'splice' }),
  concept(
    'quick-release',
    'class',
    'A form that comes undone with one pull. Never for people.',
    { all: 'quick-release hitch', rescue: 'releasable hitch' },
    { broader: ['hitch'], related: ['slipped'] },
  ),
  concept('assembly', 'class', 'Several knots on one rope that work together, with an inspection list of their own.', {
    all: '~assembly',
    camp: 'set-up',
    rescue: '~system | ~assembly',
  }),
];

export const TOOLS: readonly Concept[] = [
  concept('rope', 'tool', 'What knots are tied in: strands twisted or braided into one line.', {
    all: '~rope | ~line',
    marine: '~line | ~rope',
  }),
  concept(
    'cord',
    'tool',
    'Thin rope.',
    { all: '~cord', marine: 'small line | ~cord', camp: '~cord | ~string' },
    { broader: ['rope'] },
  ),
  concept('webbing', 'tool', 'Flat woven band.', { all: 'webbing', rescue: 'tape | webbing', camp: '~strap' }),
  concept('spar', 'tool', 'A round bar, pole or rail that a rope is made fast to.', {
    all: 'spar',
    rescue: '~bar',
    camp: '~pole',
  }),
  concept('post', 'tool', 'An upright thing that a rope is made fast to, seen from its end.', {
    all: '~post',
    marine: 'bollard',
    camp: '~stake',
  }),
  concept('ring', 'tool', 'A closed hoop that a rope is made fast to.', { all: '~ring' }),
  concept('carabiner', 'tool', 'A link with a gate that opens and locks.', {
    all: 'carabiner',
    rescue: 'carabiner | connector',
    camp: 'snap link',
    misheard: ['carabeaner', 'caribiner', 'carbiner', 'caribbean'],
  }),
  concept('hook', 'tool', 'An open bend of metal that a rope is hung in.', { all: '~hook' }),
  concept('hand', 'tool', 'The hand on which turns are laid, taken out later.', { all: '~hand' }),
  concept('block', 'tool', 'A wheel in a case over which a rope is led.', { all: 'pulley', marine: '~block' }),
  concept('cleat', 'tool', 'A fitting with two horns on which a rope is belayed.', {
    all: 'cleat',
    misheard: ['cleet'],
  }),
  concept('shackle', 'tool', 'A bow of metal closed by a pin.', { all: 'shackle' }),
  concept('swivel', 'tool', 'A link that turns, so that twist does not pass on.', { all: 'swivel' }),
  concept(
    'thimble',
    'tool',
    'A grooved ring laid in an eye, so that the rope bends gently.',
    { all: 'thimble' },
    { related: ['eye'] },
  ),
  concept('fid', 'tool', 'A pointed tool that opens strands or a tight knot.', { all: 'fid', marine: 'spike | fid' }),
  concept('anchor-point', 'tool', 'Whatever holds the whole load at the other end.', {
    all: 'anchor point',
    marine: 'strong point',
  }),
  concept('harness', 'tool', 'What a person is held by; never replaced by a rope round the body.', { all: 'harness' }),
];

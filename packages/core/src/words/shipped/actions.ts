/**
 * Shipped concepts: what one does with a rope, and the states a knot is in.
 */
import type { Concept } from '../glossary.js';
import { concept } from './write.js';

export const ACTIONS: readonly Concept[] = [
  concept('tie', 'action', 'Form a knot.', { all: '~tie' }),
  concept(
    'untie',
    'action',
    'Take a knot apart.',
    { all: 'untie', marine: 'cast off | untie', misheard: ['un tie'] },
    { related: ['tie'] },
  ),
  concept('make-fast', 'action', 'Fasten a rope to something that holds.', {
    marine: 'make fast',
    rescue: '~anchor',
    camp: 'tie off',
    workshop: 'make fast',
  }),
  concept(
    'bend-on',
    'action',
    'Join a rope to another one.',
    { all: 'join', marine: 'bend on' },
    { related: ['bend'] },
  ),
  concept(
    'cast-a-hitch',
    'action',
    'Lay a hitch round a thing.',
    { all: 'hitch', camp: 'hitch | loop over' },
    { related: ['hitch'] },
  ),
  concept(
    'dress',
    'action',
    'Lay the parts of a knot without needless crossings, twist or slack, doubled strands side by side.',
    { marine: '~fair', rescue: '~dress', camp: '~tidy', workshop: '~dress' },
    { related: ['dressed', 'set'] },
  ),
  concept(
    'set',
    'action',
    'Draw every part of a dressed knot tight in turn, before it is loaded.',
    { marine: 'draw up', rescue: '~set', camp: '~tighten', workshop: '~set' },
    { related: ['dress', 'load'] },
  ),
  concept('load', 'action', 'Let the knot bear what it is meant for.', { all: '~load' }, { related: ['set'] }),
  concept('inspect', 'action', 'Look at a finished knot from both sides and hold it against its figure.', {
    all: '~check',
    rescue: '~inspect',
  }),
  concept(
    'tuck',
    'action',
    'Lead an end or a bight through or under a strand.',
    { all: 'tuck' },
    { related: ['hitching-turn'] },
  ),
  concept('retrace', 'action', 'Lead an end along a strand that is laid already, all the way.', {
    all: 'follow through',
    rescue: 'retrace | follow through',
    workshop: 'follow round',
  }),
  concept('double-rope', 'action', 'Lay the rope back along itself.', { all: '~double' }, { related: ['bight'] }),
  concept(
    'wind',
    'action',
    'Lead the rope round a thing several times, turns side by side.',
    {
      marine: 'pass turns',
      rescue: '~wrap',
      camp: '~wrap',
      workshop: '~wind',
    },
    { related: ['turn', 'coil'] },
  ),
  concept(
    'back-up',
    'action',
    'Guard a knot by a second one tied with its tail.',
    { all: 'back up' },
    { related: ['keeper'] },
  ),
  concept(
    'seize',
    'action',
    'Bind two strands together with thin line.',
    { all: 'seize', camp: '~bind', misheard: ['cease'] },
    {
      related: ['seizing'],
    },
  ),
  concept(
    'whip',
    'action',
    'Bind the end of a rope so that it does not fray.',
    { all: '~whip', camp: '~bind off' },
    {
      related: ['whipping'],
    },
  ),
  concept(
    'mouse',
    'action',
    'Bind across the mouth of a hook, so that nothing jumps out.',
    { all: '~mouse' },
    {
      related: ['hook'],
    },
  ),
  concept('pay-out', 'action', 'Let rope run out under control.', {
    all: 'pay out',
    camp: 'let out',
    misheard: ['pay doubt'],
  }),
  concept('take-in', 'action', 'Take slack out of a rope.', {
    all: 'take in',
    marine: 'haul in',
    camp: 'pull in',
  }),
  concept('ease', 'action', 'Let a loaded rope go a little, under control.', { all: 'ease off', marine: '~ease' }),
  concept('work-through', 'action', 'Move slack through a knot part by part.', {
    all: 'work through',
    rescue: 'milk through',
  }),
  concept(
    'coil-up',
    'action',
    'Lay a rope up in coils.',
    { all: 'coil up', marine: 'coil down' },
    { related: ['coil'] },
  ),
  concept('lash', 'action', 'Bind things together with many turns.', { all: 'lash' }, { related: ['lashing'] }),
  concept(
    'splice-together',
    'action',
    'Join ropes by weaving their strands.',
    { all: 'splice' },
    { related: ['splice'] },
  ),
];

export const STATES: readonly Concept[] = [
  concept('dressed', 'state', 'Without needless crossings, twist or slack; doubled strands parallel.', {
    all: 'well dressed | dressed',
    marine: '~fair',
    camp: 'neat',
  }),
  concept(
    'taut',
    'state',
    'Without slack.',
    { all: 'taut', camp: '~tight', misheard: ['taught'] },
    { related: ['slack'] },
  ),
  concept('slack', 'state', 'Not under tension; also the rope that is left over.', { all: 'slack', camp: '~loose' }),
  concept('capsized', 'state', 'Changed into another form under load: what was a knot may be none.', {
    all: 'capsized | spilled',
    rescue: 'rolled over | capsized',
    camp: 'flipped',
    misheard: ['cap sized'],
  }),
  concept('jammed', 'state', 'Drawn so tight that it cannot be untied by hand.', { all: 'jammed', camp: '~stuck' }),
  concept(
    'slipped',
    'state',
    'Finished with a bight in place of the end, so that a pull lets it go.',
    {
      all: 'slipped',
      camp: 'quick-release',
      rescue: 'releasable',
    },
    { related: ['slip-loop'] },
  ),
  concept('creeping', 'state', 'Moving slowly through the knot under load.', { all: 'creeping', camp: 'slipping' }),
  concept('rolling', 'state', 'Turning over towards the ends under load and eating its tails.', { all: '~rolling' }),
  concept(
    'right-handed',
    'state',
    'Laid as the usual figure shows it.',
    { all: 'right-handed' },
    { related: ['left-handed'] },
  ),
  concept('left-handed', 'state', 'The mirror image of the usual figure: every crossing the other way.', {
    all: 'left-handed',
  }),
  concept(
    'mirrored',
    'state',
    'Shown left for right, as by a camera that faces the one who films.',
    { all: 'mirrored' },
    {
      related: ['left-handed'],
    },
  ),
  concept('chafed', 'state', 'Worn by rubbing.', { all: 'chafed', camp: '~worn', misheard: ['shaved'] }),
  concept('retired', 'state', 'Taken out of service; only for practice on the ground.', {
    all: 'retired',
    marine: 'condemned',
  }),
  concept(
    'doubled',
    'state',
    'Made with two strands side by side throughout.',
    { all: '~doubled' },
    { related: ['doubled-strand'] },
  ),
];

/**
 * Shipped concepts: the parts of a rope, and the shapes it is laid in.
 */
import type { Concept } from '../glossary.js';
import { concept } from './write.js';

export const PARTS: readonly Concept[] = [
  concept('end', 'part of a rope', 'Either extreme of a rope, and the short length next to it.', { all: '~end' }),
  concept(
    'working-end',
    'part of a rope',
    'The end one ties with: it moves while the rest of the rope lies still.',
    {
      marine: 'running end | working end',
      rescue: 'working end | live end',
      camp: 'free end | loose end',
      workshop: 'working end',
      avoid: {
        'bitter end':
          'At sea this is strictly the inboard end, the one that is made fast; here it would name the other.',
      },
      misheard: ['walking end', 'working and', 'running and'],
    },
    { broader: ['end'], related: ['tail', 'standing-part'] },
  ),
  concept(
    'standing-part',
    'part of a rope',
    'The long part that does not move while the knot is tied, and that is loaded or made fast.',
    {
      marine: 'standing part',
      rescue: 'standing end | load line',
      camp: 'standing line | long end',
      workshop: 'standing part | ~lead',
      misheard: ['standing park', 'standing apart'],
    },
    { related: ['working-end'] },
  ),
  concept(
    'bitter-end',
    'part of a rope',
    'The inboard end of a line, made fast on board.',
    { marine: 'bitter end', misheard: ['better end'] },
    {
      broader: ['end'],
      related: ['standing-part'],
      notes: 'Other trades say it of any end, so it is named only here.',
    },
  ),
  concept(
    'tail',
    'part of a rope',
    'What is left of the working end beyond the last crossing when the knot is done. It keeps the end from creeping back through.',
    {
      marine: 'tail',
      rescue: 'tail',
      camp: 'tag end | tail',
      workshop: 'tail | ~tag',
      avoid: { 'rest of the rope': 'It says nothing of which side of the knot is meant.' },
      misheard: ['tale'],
    },
    { related: ['working-end', 'keeper'] },
  ),
  concept('middle', 'part of a rope', 'A place of the rope that is tied without either end.', {
    all: 'mid-rope | middle of the rope',
    camp: 'middle of the rope',
    misheard: ['mid road'],
  }),
  concept(
    'strand',
    'part of a rope',
    'One run of rope inside a knot; also one of the yarns a laid rope is twisted from.',
    { all: 'strand', camp: 'strand | piece of rope' },
    { related: ['doubled-strand'] },
  ),
  concept(
    'doubled-strand',
    'part of a rope',
    'Two runs of rope that lie side by side all the way and do one work.',
    { all: 'doubled strand | doubled part', rescue: 'pair of strands | doubled strand' },
    { broader: ['strand'] },
  ),
  concept('leg', 'part of a rope', 'One of the two runs of rope that leave a bight, a sling or a bridle.', {
    all: 'leg',
    misheard: ['lag'],
  }),
  concept('sheath', 'part of a rope', 'The woven cover of a rope, which takes the rubbing.', {
    all: 'sheath',
    rescue: 'sheath | mantle',
    marine: 'cover | sheath',
    misheard: ['sheaf'],
  }),
  concept('core-of-rope', 'part of a rope', 'The inside of a covered rope, which bears most of the load.', {
    all: '~core',
    rescue: '~core | ~kern',
  }),
  concept('bridge', 'part of a rope', 'The strand that runs across the turns of a friction hitch and closes them.', {
    all: '~bridge',
  }),
  concept('lobe', 'shape', 'One of the rounded bulges of a stopper, seen from its end.', { all: 'lobe' }),

  concept(
    'bight',
    'shape',
    'Rope doubled back on itself without crossing. In the strict sense also any slack part between the ends.',
    {
      all: 'bight',
      camp: 'bight | ~fold',
      avoid: { 'u shape': 'Learners look for a letter and miss that the strands must not cross.' },
      misheard: ['bite', 'byte', 'bide'],
    },
    { related: ['loop', 'leg'] },
  ),
  concept(
    'loop',
    'shape',
    'The rope crosses itself and closes a place.',
    { all: 'loop', rescue: 'loop | crossing turn', misheard: ['loup'] },
    { related: ['bight', 'overhand-loop', 'underhand-loop'] },
  ),
  concept(
    'overhand-loop',
    'shape',
    'A loop whose end lies over the standing part.',
    { all: 'overhand loop', camp: 'front loop | overhand loop', misheard: ['over hand loop', 'overhand loup'] },
    { broader: ['loop'], notes: 'Teachers contradict each other here: the picture decides, never the word alone.' },
  ),
  concept(
    'underhand-loop',
    'shape',
    'A loop whose end lies under the standing part.',
    { all: 'underhand loop', camp: 'back loop | underhand loop', misheard: ['under hand loop', 'underhand loup'] },
    { broader: ['loop'], notes: 'Teachers contradict each other here: the picture decides, never the word alone.' },
  ),
  concept(
    'turn',
    'shape',
    'The rope goes round a thing once; in some schools less than the full way.',
    { marine: '~turn', rescue: '~wrap', camp: '~wrap', workshop: '~turn' },
    { related: ['round-turn', 'coil'] },
  ),
  concept(
    'round-turn',
    'shape',
    'The rope goes fully round and comes back alongside: two strands are seen on one side.',
    { all: 'round turn', camp: 'full wrap', misheard: ['round tern', 'around turn'] },
    { broader: ['turn'] },
  ),
  concept(
    'riding-turn',
    'shape',
    'A turn that lies over another one instead of beside it.',
    { all: 'riding turn', marine: 'riding turn | override', rescue: 'crossed wrap', camp: 'crossed wrap' },
    { broader: ['turn'] },
  ),
  concept('elbow', 'shape', 'Two crossings of the same two strands in a row: a loop that was twisted.', {
    all: 'elbow',
    camp: 'twisted loop',
  }),
  concept(
    'twist',
    'shape',
    'Two strands or legs laid round each other by half turns.',
    { all: '~twist' },
    {
      related: ['elbow'],
    },
  ),
  concept(
    'nipping-turn',
    'shape',
    'The turn that grips what is led through it.',
    { all: 'nipping turn | nipping loop', camp: 'gripping loop', misheard: ['nipping tern', 'knitting turn'] },
    { broader: ['turn'], related: ['collar'] },
  ),
  concept(
    'collar',
    'shape',
    'The bight that goes round the standing part and is held by it.',
    { all: 'collar', misheard: ['caller', 'color'] },
    { broader: ['bight'] },
  ),
  concept('eye', 'shape', 'A small loop that stays, to be loaded or clipped.', {
    all: '~eye',
    rescue: '~eye | attachment loop',
    misheard: ['aye'],
  }),
  concept(
    'coil',
    'shape',
    'One of several turns that lie side by side.',
    { all: 'coil', marine: 'coil | ~fake' },
    {
      broader: ['turn'],
    },
  ),
  concept(
    'slip-loop',
    'shape',
    'A bight left in the knot in place of the end: pulled, it lets the knot go.',
    {
      all: 'slip loop | draw loop',
      marine: 'slip bight',
      camp: 'quick-release loop',
      rescue: 'release loop | draw loop',
    },
    { broader: ['bight'], related: ['slipped'] },
  ),
  concept('crossing', 'shape', 'A place where one strand lies over another.', {
    all: 'crossing',
    camp: 'crossing | cross-over',
  }),
  concept('body-of-knot', 'shape', 'The knotted part without its eyes, standing parts and tails.', {
    all: 'body of the knot | knot body',
  }),
  concept(
    'hitching-turn',
    'shape',
    'A turn under which the end is led, so that it nips itself.',
    { all: 'hitching turn' },
    {
      broader: ['turn'],
    },
  ),
];

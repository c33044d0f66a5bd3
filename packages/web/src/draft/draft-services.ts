/** What the Draft screen is worked with: one of each for a bench. */
import { PlacingService } from '../data/placing';
import { DraftState } from './draft-state';
import { Handling } from './handling';
import { Laying } from './laying';
import { LayingTools } from './laying-tools';
import { MoveTool } from './move-tool';
import { StepTools } from './steps/step-tools';
import { Tidying } from './tidying';
import { TraceService } from './trace';
import { UnderKey } from './under-key';
import { WeaveWalk } from './weave-walk';

export const DRAFT_SERVICES = [
  DraftState,
  UnderKey,
  Laying,
  LayingTools,
  MoveTool,
  Handling,
  WeaveWalk,
  StepTools,
  PlacingService,
  Tidying,
  TraceService,
];

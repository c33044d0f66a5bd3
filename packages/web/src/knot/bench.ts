/** What an open knot is worked with: one of each for a bench. */
import { AnalysisService } from '../data/analysis';
import { IdentityService } from '../data/identity';
import { BenchStore } from './bench-store';
import { Insight } from './insight';
import { Opening } from './opening';
import { Past } from './past';
import { Saving } from './saving';
import { ShelfFacts } from './shelf-facts';

export const BENCH = [BenchStore, Saving, Past, ShelfFacts, Insight, Opening, AnalysisService, IdentityService];

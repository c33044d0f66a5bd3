/**
 * A small stock of cordage to choose a knot's ropes from. Diameters are against the figure's unit, an ordinary rope of the knot.
 */
import type { Cordage } from '../figure/cordage.js';

export interface StockedCordage {
  readonly says: string;
  readonly cordage: Cordage;
}

export const STOCK: readonly StockedCordage[] = [
  { says: 'Kernmantle, pale', cordage: { construction: 'kernmantle', colour: '#e6dcc6' } },
  {
    says: 'Kernmantle, blue with a white tracer',
    cordage: { construction: 'kernmantle', colour: '#2f5f98', second: '#f6f4ee', mark: 'tracer' },
  },
  { says: 'Laid line, straw', cordage: { construction: 'laid', colour: '#d9bd5e', stiffness: 'stiff' } },
  { says: 'Braided line, slate', cordage: { construction: 'braided', colour: '#5d6f80' } },
  {
    says: 'Two-tone teaching rope',
    cordage: { construction: 'kernmantle', colour: '#f6f4ee', second: '#8f2f35', mark: 'two-tone' },
  },
  {
    says: 'Friction cord, thin, red',
    cordage: { name: 'cord', diameter: 0.6, construction: 'kernmantle', colour: '#8f2f35', stiffness: 'supple' },
  },
  {
    says: 'Twine',
    cordage: { name: 'twine', diameter: 0.4, construction: 'laid', colour: '#e6dcc6', stiffness: 'limp' },
  },
  {
    says: 'Flat webbing, sky with a stripe',
    cordage: {
      name: 'webbing',
      diameter: 1.5,
      construction: 'flat webbing',
      colour: '#93b9cf',
      second: '#2f5f98',
      stiffness: 'limp',
    },
  },
  {
    says: 'Tubular webbing, green',
    cordage: { name: 'webbing', diameter: 1.4, construction: 'tubular webbing', colour: '#31573f', stiffness: 'limp' },
  },
];

/** Lengths in the units of the house: inches and feet where it measures so, else as a tape shows them. */
import { inject } from '@angular/core';
import { choiceOf } from '@foxtrail/core';
import { lengthsIn } from '@foxtrail/core/ropes';
import { SessionService } from '../data/session';

/** Asked for where a component is made; what it gives says a length of so many millimetres. */
export function lengthsSaid(): (mm: number) => string {
  const sessions = inject(SessionService);
  return (mm) => {
    const practice = sessions.session()?.house.practice;
    const inInches = practice !== undefined && choiceOf(practice, 'units') === 'inches';
    return lengthsIn(inInches ? 'inches' : 'millimetres')(mm);
  };
}

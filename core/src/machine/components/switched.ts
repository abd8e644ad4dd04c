import { z } from 'zod';
import { component, type ComponentKind, condition, truth } from '../component';

/** What has one state that holds while its condition does. */
function switched(kind: string, state: string, parameter: string, says: string): ComponentKind {
  return component({
    kind,
    says,
    parameters: z.strictObject({ [parameter]: condition }),
    states: () => ({ [state]: truth() }),
    tick: () => (own) => own.set(state, own.holds(parameter)),
  });
}

/** Components that are on, closed, held or fastened just while something holds. */
export const SWITCHED: readonly ComponentKind[] = [
  switched('ignition', 'on', 'onWhen', 'The circuits that a key gives power to'),
  switched('key', 'on', 'onWhen', 'A key switch in the position that gives power'),
  switched('isolator', 'on', 'onWhen', 'The switch that parts the battery, or the mains, from the machine'),
  switched('seat', 'occupied', 'occupiedWhen', 'The seat with its switch'),
  switched('seat-belt', 'fastened', 'fastenedWhen', 'The belt'),
  switched('park-brake', 'on', 'onWhen', 'The brake that holds the machine when nobody does'),
  switched('presence', 'on', 'onWhen', 'What tells that somebody stands or sits where they should'),
  switched('enable', 'held', 'heldWhen', 'A pedal, bar or trigger that must be held for anything to move'),
  switched('stop-button', 'in', 'inWhen', 'A stop button that stays in until it is turned or pulled'),
  switched('horn', 'on', 'onWhen', 'The horn'),
  switched('lights', 'on', 'onWhen', 'Lamps to work and to be seen by'),
  switched('beacon', 'on', 'onWhen', 'The flashing light'),
  switched('alarm', 'on', 'onWhen', 'The alarm that sounds when the machine backs or travels'),
  switched('charger', 'connected', 'connectedWhen', 'The charging plug'),
  switched('code', 'entered', 'enteredWhen', 'A code that is typed in'),
  switched('door', 'closed', 'closedWhen', 'A door or gate'),
  switched('hood', 'closed', 'closedWhen', 'A hood or cover'),
  switched('gas-valve', 'open', 'openWhen', 'The valve of the gas bottle'),
];

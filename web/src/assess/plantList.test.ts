import { describe, expect, it } from 'vitest';
import { forklift } from '../testing/evaluation';
import { faultChoice, placeOf } from './plantList';

describe('a fault to plant', () => {
  it('is offered with its grade, its title, the part and the station, for every fault of the class', () => {
    for (const fault of forklift.faults) {
      const { value, label, more } = faultChoice(forklift, fault);
      const checkpoint = forklift.checkpoints.find((each) => each.id === fault.checkpoint)!;
      const station = forklift.plan.stations.find((each) => each.id === checkpoint.station)!;
      expect([value, more]).toEqual([fault.id, `${checkpoint.part} (${station.name})`]);
      expect(label).toMatch(/^(Watch|Mend|Stop|Walk away|[A-Z][a-z ]+): ./);
      expect(label.endsWith(fault.title)).toBe(true);
    }
  });

  it('whose check is not in the class names the check itself', () => {
    expect(placeOf(forklift, { ...forklift.faults[0]!, checkpoint: 'CF-0' })).toBe('CF-0 ()');
  });
});

/** The machine's fit-out: feature id to value, with the power variant under `variant`. */
export type FitOut = Readonly<Record<string, string>>;

/** A parsed need such as `power!=electric`. */
export interface Need {
  feature: string;
  values: string[];
  negated: boolean;
}

/**
 * Splits a need: `feature` means any value but "no"/"none", `!feature` the opposite, `feature=a|b` one of
 * these, `feature!=a` anything else.
 */
export function parseNeed(text: string): Need {
  const match = /^(!?)([a-z][a-z0-9_-]*)(?:(!?=)(.+))?$/.exec(text);
  if (!match) throw new RangeError(`"${text}" is not a need`);
  const [, bang, feature, operator, values] = match;
  if (!operator) return { feature: feature!, values: ['no', 'none'], negated: bang !== '!' };
  return { feature: feature!, values: values!.split('|'), negated: (operator === '!=') !== (bang === '!') };
}

/** Whether every need holds for the fit-out. */
export function needsMet(needs: readonly string[], fitOut: FitOut): boolean {
  return needs.every((text) => {
    const need = parseNeed(text);
    return need.values.includes(fitOut[need.feature] ?? 'no') !== need.negated;
  });
}

/**
 * The changes to a fit-out that make every need hold: for each unmet need the first value that meets it.
 * Null where no value does.
 */
export function meetNeeds(
  needs: readonly string[],
  fitOut: FitOut,
  values: ReadonlyMap<string, readonly string[]>,
): Record<string, string> | null {
  const changes: Record<string, string> = {};
  for (const text of needs) {
    const { feature } = parseNeed(text);
    if (needsMet([text], { ...fitOut, ...changes })) continue;
    const value = values.get(feature)?.find((each) => needsMet([text], { [feature]: each }));
    if (value === undefined) return null;
    changes[feature] = value;
  }
  return changes;
}

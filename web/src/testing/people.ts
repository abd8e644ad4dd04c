import type { Person } from '@rounds/contract/people';

/** Somebody on the roster, for tests. */
export const somebody = (change: Partial<Person> = {}): Person => ({
  id: '01900000-0000-7000-8000-00000000b001',
  payroll: '20192',
  givenName: 'Anna',
  familyName: 'Berg',
  site: 'Quay',
  team: 'Blue',
  email: null,
  born: null,
  started: null,
  active: true,
  ...change,
});

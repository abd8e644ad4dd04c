import type { Problem } from '@rounds/contract';

/** Titles of the stable problem codes; `detail` says the particular case. */
const TITLES: Record<string, { status: number; title: string }> = {
  invalid: { status: 422, title: 'Some fields need another look' },
  'not-signed-in': { status: 401, title: 'Not signed in' },
  forbidden: { status: 403, title: 'Not for this role' },
  'not-found': { status: 404, title: 'Not found' },
  'cross-site': { status: 403, title: 'Request from another site refused' },
  'too-large': { status: 413, title: 'Too large' },
  'wrong-sign-in': { status: 403, title: 'Name or password is wrong' },
  'too-many-attempts': { status: 429, title: 'Too many attempts' },
  'already-set-up': { status: 409, title: 'Already set up' },
  'unknown-time-zone': { status: 422, title: 'Unknown time zone' },
  'payroll-taken': { status: 409, title: 'Payroll number already used' },
  'login-taken': { status: 409, title: 'Sign-in name already used' },
  'unit-taken': { status: 409, title: 'A machine of this name exists' },
  'last-administrator': { status: 409, title: 'The last administrator stays' },
  composition: { status: 422, title: 'The machine does not fit its class' },
  'csv-unreadable': { status: 422, title: 'The file is not readable CSV' },
  'csv-empty': { status: 422, title: 'The file has no rows' },
  'date-in-future': { status: 422, title: 'The date lies in the future' },
  'not-yours': { status: 403, title: 'Not your team' },
  'evaluation-exists': { status: 409, title: 'This evaluation exists already' },
  'evaluation-held': { status: 409, title: 'Open on another device' },
  'evaluation-closed': { status: 409, title: 'Signed and closed' },
  'planted-faults-remain': { status: 409, title: 'A planted fault is still in the machine' },
  'not-complete': { status: 409, title: 'Not complete' },
  'override-needs-reason': { status: 422, title: 'An override needs a reason' },
  'unknown-row': { status: 422, title: 'Not in this class' },
  'draft-moved': { status: 409, title: 'Somebody else saved this draft' },
  'pack-broken': { status: 422, title: 'The pack has errors' },
  'nothing-changed': { status: 409, title: 'Nothing to publish' },
  'import-moved': { status: 409, title: 'The class has changed since the preview' },
  'not-decided': { status: 409, title: 'Not decided yet' },
  unexpected: { status: 500, title: 'Something went wrong on the server' },
};

/** An error that the binder turns into problem+json. */
export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(code: keyof typeof TITLES & string, detail: string, errors?: { path: string; message: string }[]) {
    super(detail);
    const known = TITLES[code] ?? TITLES['unexpected']!;
    this.problem = { type: `urn:rounds:${code}`, title: known.title, status: known.status, code, detail, ...(errors ? { errors } : {}) };
  }
}

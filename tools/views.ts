import type { Page } from 'playwright-core';
import { v7 as uuidv7 } from 'uuid';
import { chooseOption } from './browser';

/** A main view of the application, as the demo shows it. `open` brings the signed-in page there. */
export interface View {
  name: string;
  as: 'hilda' | 'isla' | 'gordon' | 'viktor' | 'una' | null;
  open: (page: Page, address: string) => Promise<void>;
  /** Whether a picture of it belongs to docs/screenshots. */
  kept?: boolean;
}

/** Signs in through the API, so that many views need no typing. */
export async function signIn(page: Page, address: string, login: string): Promise<void> {
  await page.goto(`${address}/ring.svg`);
  await page.evaluate(async (who) => {
    const installation = (await (await fetch('/api/installation')).json()) as { demoPassword: string };
    await fetch('/api/session', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ login: who, password: installation.demoPassword }),
    });
  }, login);
}

/** Begins a try-out at a desk; answers its number. */
export async function beginDesk(
  page: Page,
  asked: { classId: string; variant: string; program: string; mode: string },
): Promise<string> {
  const id = uuidv7();
  await page.evaluate(
    async (body) => {
      const answer = await fetch('/api/practice/desks', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
      if (!answer.ok) throw new Error(await answer.text());
    },
    { id, surprise: false, personId: null, ...asked },
  );
  return id;
}

const go = (path: string, heading: RegExp) => async (page: Page, address: string) => {
  await page.goto(`${address}${path}`);
  await page.getByRole('heading', { name: heading }).first().waitFor();
};

async function firstEvaluation(
  page: Page,
  phase: (each: { phase: string; outcome: string | null; stillPlanted: unknown[] }) => boolean,
): Promise<string> {
  return page.evaluate(async (source) => {
    const wanted = new Function(`return ${source}`)() as (each: unknown) => boolean;
    const { rows } = (await (await fetch('/api/evaluations?limit=100')).json()) as { rows: { id: string }[] };
    return rows.find(wanted)!.id;
  }, phase.toString());
}

/** Goes to the machine to practise a forklift's start. */
async function practise(page: Page, address: string): Promise<void> {
  await page.goto(`${address}/assess/practice`);
  await chooseOption(page, 'Operator', 'Magnus Heddle');
  await chooseOption(page, 'Class', 'Counterbalance forklift truck');
  await page.getByRole('button', { name: /FLT-01/ }).click();
  await page.getByRole('button', { name: 'Go to the machine' }).click();
  await page.getByRole('button', { name: /^Begin: stamp/ }).waitFor();
}

/** Opens a room of a class exercise with two guests in it, who have graded the first finding. */
async function openRoom(page: Page, address: string): Promise<void> {
  await page.goto(`${address}/teach/exercise`);
  await chooseOption(page, 'Class', 'Wheel loader');
  await page.getByRole('button', { name: 'Propose findings' }).click();
  await page.getByRole('textbox', { name: 'Title' }).fill('Monday class, loaders');
  await page.getByRole('button', { name: 'Open the room' }).click();
  const join = page.getByRole('button', { name: /^Join:/ });
  await join.waitFor();
  const code = (await join.innerText()).replace(/^Join:\s*/, '');
  const guests = await Promise.all(
    ['Aud Sinclair', 'Bo Linklater', 'Cara Flett'].map(async (name) => {
      const context = await page.context().browser()!.newContext();
      const phone = await context.newPage();
      await phone.goto(`${address}/join/${code}`);
      await phone.getByRole('textbox', { name: 'Your name' }).fill(name);
      await phone.getByRole('button', { name: 'Join' }).click();
      await phone.getByText('You are in.').waitFor();
      return { context, phone };
    }),
  );
  await page.getByRole('button', { name: 'Show the first finding' }).click();
  for (const [i, { context, phone }] of guests.entries()) {
    await phone.getByText('1 of ').waitFor();
    await phone.getByRole('button', { name: ['Mend', 'Stop', 'Mend'][i]! }).click();
    await phone.getByText('Kept.').waitFor();
    await context.close();
  }
  await page.getByRole('button', { name: 'Reveal (3 of 3 answered)' }).click();
  await page.getByText('the key', { exact: true }).waitFor();
}

/** A replayed round, some moments in, with what was scored of it. */
async function replay(page: Page, address: string): Promise<void> {
  await page.goto(`${address}/assess/calibration`);
  await page.getByRole('link', { name: /Reach truck at the quay$/ }).click();
  // The one it was left at before is gone on with.
  const next = page.getByRole('button', { name: /^Next/ });
  const begin = page.getByRole('button', { name: /^Step by step/ });
  await next.or(begin).waitFor();
  if (await begin.isVisible()) await begin.click();
  for (let i = 0; i < 6; i++) await next.click();
}

/** Begins a lesson on the wheel loader and goes to a fault of it. */
async function teach(page: Page, address: string): Promise<void> {
  await page.goto(`${address}/teach`);
  await chooseOption(page, 'Class', 'Wheel loader');
  await page.getByRole('button', { name: 'Begin the lesson' }).click();
  await page
    .getByRole('list', { name: 'Things shown' })
    .getByRole('button', { name: /hose/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Show the answer' }).click();
  await page.getByRole('button', { name: /^Next: / }).waitFor();
}

export const VIEWS: readonly View[] = [
  {
    name: 'sign-in',
    as: null,
    open: async (page, address) => {
      await page.goto(address);
      await page.getByRole('heading', { name: 'Rounds' }).waitFor();
    },
  },
  { name: 'today', as: 'hilda', kept: true, open: go('/', /20\d\d/) },
  {
    name: 'people',
    as: 'hilda',
    open: async (page, address) => {
      await go('/people', /People/)(page, address);
      await page.getByRole('table').waitFor();
    },
  },
  {
    name: 'import',
    as: 'hilda',
    open: async (page, address) => {
      await go('/people/import', /Import people/)(page, address);
      const rows = [
        'Staff no,First name,Surname,Site,Team,DOB',
        '30001,Asta,Grimness,Ferry Quay,Quayside,1990-04-12',
        '30002,Bram,Yesnaby,Ferry Quay,Quayside,1988-02-30',
        '30003,,Warbeth,Ferry Quay,Quayside,1979-11-02',
        '30001,Cleo,Rackwick,Ferry Quay,Cargo shed,1994-07-21',
        '30005,Dag,Burness,Gannet Field,Airfield ground,2001-01-19',
      ];
      await page.getByLabel('CSV file').setInputFiles({
        name: 'new-starters.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(rows.join('\r\n')),
      });
      await page.getByRole('table', { name: 'Rejected rows' }).waitFor();
    },
  },
  {
    name: 'person',
    as: 'hilda',
    kept: true,
    open: async (page, address) => {
      await go('/', /20\d\d/)(page, address);
      await page.getByRole('region', { name: 'People who need attention' }).getByRole('link').first().click();
      await page.getByRole('heading', { name: 'History' }).waitFor();
    },
  },
  {
    name: 'matrix',
    as: 'hilda',
    kept: true,
    open: async (page, address) => {
      await go('/people/matrix', /Standing matrix/)(page, address);
      await page.getByRole('grid').waitFor();
    },
  },
  {
    name: 'classes',
    as: 'hilda',
    open: async (page, address) => {
      await go('/classes', /Machine classes/)(page, address);
      await page.getByRole('link', { name: /Counterbalance/ }).waitFor();
    },
  },
  {
    name: 'class-round',
    as: 'hilda',
    kept: true,
    open: go('/classes/counterbalance-forklift', /Counterbalance forklift/),
  },
  {
    name: 'class-faults',
    as: 'hilda',
    open: async (page, address) => {
      await go('/classes/counterbalance-forklift', /Counterbalance forklift/)(page, address);
      await page.getByRole('tab', { name: /Faults/ }).click();
      await page.getByRole('table').waitFor();
    },
  },
  {
    name: 'class-numbers',
    as: 'hilda',
    open: go('/classes/overhead-crane?part=numbers&row=OC-N02', /Overhead/),
  },
  {
    name: 'class-start-stop',
    as: 'hilda',
    open: go('/classes/wheel-loader?part=start-stop', /Wheel loader/),
  },
  {
    name: 'class-procedures',
    as: 'hilda',
    open: go('/classes/towed-generator-set?part=procedures', /Towed generator/),
  },
  { name: 'class-sheet', as: 'hilda', open: go('/classes/reach-truck?part=sheet', /Reach truck/) },
  {
    name: 'class-cautions',
    as: 'hilda',
    open: go('/classes/string-trimmer?part=cautions', /String trimmer/),
  },
  {
    name: 'class-teaching',
    as: 'hilda',
    open: go('/classes/telescopic-boom-lift?part=teaching', /Telescopic boom/),
  },
  {
    name: 'class-schools',
    as: 'hilda',
    open: async (page, address) => {
      await go('/classes/overhead-crane?part=schools', /Overhead/)(page, address);
      await chooseOption(page, 'Site', 'Trust Workshop');
      await page
        .getByRole('button', { name: /^Choose for/ })
        .first()
        .click();
    },
  },
  {
    name: 'class-search',
    as: 'hilda',
    open: async (page, address) => {
      await go('/classes', /Machine classes/)(page, address);
      await page.getByRole('searchbox', { name: 'Search every class' }).fill('two wraps');
      await page.getByRole('region', { name: 'Search results' }).getByRole('link').first().waitFor();
    },
  },
  { name: 'drawings', as: 'hilda', open: go('/classes/drawings?kind=tyre', /Drawings/) },
  {
    name: 'set-practice',
    as: 'hilda',
    open: async (page, address) => {
      await go('/practise', /Practise/)(page, address);
      await chooseOption(page, 'Class', 'Counterbalance forklift truck');
      await page.getByRole('button', { name: 'Set it to people' }).click();
      await page.getByRole('dialog', { name: 'Set this practice' }).waitFor();
    },
  },
  {
    name: 'class-compare',
    as: 'hilda',
    open: async (page, address) => {
      await go('/classes/compare?a=wheel-loader&b=motor-grader', /Compare two/)(page, address);
      await page.getByRole('heading', { name: 'Starting' }).waitFor();
    },
  },
  {
    name: 'class-import',
    as: 'una',
    open: async (page, address) => {
      await go('/classes/import', /Import a class/)(page, address);
      const yaml = await page.evaluate(async () => (await fetch('/api/classes/push-mower/pack.yaml')).text());
      await page.getByLabel('Class file').setInputFiles({
        name: 'push-mower.yaml',
        mimeType: 'application/yaml',
        buffer: Buffer.from(yaml.replace('no crack or break, run true', 'no crack; runs true')),
      });
      await page.getByRole('heading', { name: 'What would change' }).waitFor();
    },
  },
  { name: 'class-history', as: 'una', open: go('/classes/push-mower/history', /Revisions of/) },
  {
    name: 'class-edit',
    as: 'hilda',
    kept: true,
    open: async (page, address) => {
      await go('/classes/motor-grader/edit?row=mg-c16', /Edit motor grader/)(page, address);
      await page.getByRole('form', { name: 'Row mg-c16' }).waitFor();
    },
  },
  {
    name: 'class-edit-desk',
    as: 'hilda',
    open: async (page, address) => {
      await go('/classes/wheel-loader/edit?row=park-brake', /Edit wheel loader/)(page, address);
      await page.getByRole('form', { name: 'Row park-brake' }).waitFor();
      await page.getByRole('region', { name: 'Where you are' }).waitFor();
      await page.getByText('Pause', { exact: true }).click();
    },
  },
  {
    name: 'class-edit-text',
    as: 'hilda',
    open: async (page, address) => {
      await go('/classes/motor-grader/edit?tab=text', /Edit motor grader/)(page, address);
      await page.getByRole('textbox', { name: 'The class as YAML' }).waitFor();
    },
  },
  {
    name: 'class-edit-plan',
    as: 'hilda',
    open: async (page, address) => {
      await go('/classes/motor-grader/edit?tab=plan', /Edit motor grader/)(page, address);
      await page.getByRole('group', { name: 'Plan with stations to move' }).waitFor();
    },
  },
  {
    name: 'class-edit-changes',
    as: 'hilda',
    open: go('/classes/motor-grader/edit?tab=changes', /Edit motor grader/),
  },
  {
    name: 'assess',
    as: 'hilda',
    open: async (page, address) => {
      await go('/assess', /Evaluations/)(page, address);
      await page.getByRole('table').waitFor();
    },
  },
  {
    name: 'prepare',
    as: 'hilda',
    open: async (page, address) => {
      await go('/assess/new', /Prepare an evaluation/)(page, address);
      await chooseOption(page, 'Operator', 'Eilidh Corrigall');
      await chooseOption(page, 'Class', 'Counterbalance forklift truck');
      await page.getByRole('button', { name: /FLT-02/ }).click();
      const ticks = page.getByRole('checkbox', { name: /^Planted: /, checked: false });
      await ticks.first().click();
      await ticks.first().click();
    },
  },
  {
    name: 'run',
    as: 'hilda',
    kept: true,
    open: async (page, address) => {
      await page.goto(
        `${address}/assess/${await firstEvaluation(page, (each) => each.stillPlanted.length > 0)}?part=round`,
      );
      await page.getByRole('button', { name: /^Rear:/ }).waitFor();
    },
  },
  {
    name: 'practice-choose',
    as: 'hilda',
    open: practise,
  },
  {
    name: 'live',
    as: 'hilda',
    kept: true,
    open: async (page, address) => {
      await practise(page, address);
      await page.getByRole('button', { name: /^Begin: stamp/ }).click();
      const tokens = page.getByRole('group', { name: 'Next acts' }).getByRole('button');
      for (const act of [
        'Complete the walk-round',
        'Sit in the seat',
        'Set the parking brake',
        'Crank the engine',
      ])
        await tokens.filter({ hasText: act }).click();
      await page.getByRole('button', { name: 'It ended' }).waitFor();
    },
  },
  {
    name: 'teach',
    as: 'hilda',
    open: async (page, address) => {
      await page.goto(`${address}/teach`);
      await chooseOption(page, 'Class', 'Wheel loader');
      await page.getByRole('region', { name: 'Plan of the lesson' }).waitFor();
    },
  },
  { name: 'lesson', as: 'hilda', kept: true, open: teach },
  {
    name: 'lesson-screen',
    as: 'hilda',
    open: async (page, address) => {
      await teach(page, address);
      await page.goto(`${page.url()}/screen`);
      await page.getByRole('article').waitFor();
    },
  },
  {
    name: 'screen-join',
    as: null,
    open: go('/screen', /Big screen of a lesson/),
  },
  {
    name: 'order-graph',
    as: 'hilda',
    open: async (page, address) => {
      await page.goto(`${address}/classes/motor-grader/edit?row=mg-P7`);
      await page.getByRole('region', { name: 'Order of the steps' }).waitFor();
    },
  },
  {
    name: 'sheet',
    as: 'hilda',
    open: async (page, address) => {
      await page.goto(
        `${address}/assess/${await firstEvaluation(page, (each) => each.stillPlanted.length > 0)}?part=sheet`,
      );
      await page.getByRole('heading', { name: /Score sheet/ }).waitFor();
    },
  },
  {
    name: 'retrieve',
    as: 'hilda',
    open: async (page, address) => {
      await page.goto(
        `${address}/assess/${await firstEvaluation(page, (each) => each.stillPlanted.length > 0)}?part=retrieve`,
      );
      await page.getByRole('heading', { name: /still in the machine/ }).waitFor();
    },
  },
  {
    name: 'review',
    as: 'hilda',
    kept: true,
    open: async (page, address) => {
      await page.goto(
        `${address}/assess/${await firstEvaluation(page, (each) => each.phase === 'closed' && each.outcome === 'not-yet')}?part=review`,
      );
      await page.getByRole('region', { name: 'Outcome' }).waitFor();
    },
  },
  {
    name: 'signed',
    as: 'hilda',
    open: async (page, address) => {
      await page.goto(
        `${address}/assess/${await firstEvaluation(page, (each) => each.phase === 'closed' && each.outcome === 'competent')}?part=sign`,
      );
      await page.getByRole('heading', { name: /Signed and on record/ }).waitFor();
    },
  },
  {
    name: 'settings',
    as: 'una',
    open: async (page, address) => {
      await go('/settings?part=rules', /Settings/)(page, address);
      await page.getByRole('button', { name: 'Look who is affected' }).waitFor();
    },
  },
  {
    name: 'settings-accounts',
    as: 'una',
    open: async (page, address) => {
      await go('/settings?part=accounts', /Settings/)(page, address);
      await page.getByRole('heading', { name: 'Add an account' }).waitFor();
    },
  },
  {
    name: 'settings-audit',
    as: 'una',
    open: async (page, address) => {
      await go('/settings?part=audit', /Settings/)(page, address);
      await page.getByRole('table', { name: 'Audit' }).waitFor();
    },
  },
  {
    name: 'settings-own',
    as: 'isla',
    open: go('/settings', /Settings/),
  },
  {
    name: 'settings-rules-read',
    as: 'gordon',
    open: async (page, address) => {
      await go('/settings?part=rules', /Settings/)(page, address);
      await page.getByText('What each event does').waitFor();
    },
  },
  {
    name: 'palette',
    as: 'hilda',
    open: async (page, address) => {
      await go('/', /20\d\d/)(page, address);
      await page.keyboard.press('Control+k');
      await page.getByRole('combobox', { name: 'Find anything' }).fill('forklift');
      await page
        .getByRole('option', { name: /Counterbalance/ })
        .first()
        .waitFor();
    },
  },
  {
    name: 'add-person',
    as: 'hilda',
    open: async (page, address) => {
      await go('/people', /People/)(page, address);
      await page.getByRole('button', { name: 'Add a person' }).click();
      await page.getByRole('dialog', { name: 'Add a person' }).waitFor();
    },
  },
  { name: 'operator-today', as: 'isla', kept: true, open: go('/', /20\d\d/) },
  { name: 'operator-assess', as: 'isla', open: go('/assess', /My evaluations/) },
  {
    name: 'practise',
    as: 'isla',
    open: async (page, address) => {
      await go('/practise', /Practise/)(page, address);
      await page.getByRole('article', { name: 'Counterbalance forklift truck' }).waitFor();
    },
  },
  {
    name: 'drill',
    as: 'isla',
    kept: true,
    open: async (page, address) => {
      await go('/practise', /Practise/)(page, address);
      await chooseOption(page, 'Class', 'Counterbalance forklift truck');
      await page.getByRole('button', { name: 'Begin' }).click();
      // What is dealt differs each time: on until something counts and shows itself as a drawing.
      const shown = page.getByRole('list', { name: 'What it showed' });
      const methods = page.getByRole('group', { name: /^Ways to check/ }).getByRole('button');
      for (let n = 0; n < 14 && (await shown.getByRole('img').count()) === 0; n++) {
        await page.getByRole('button', { name: 'Next station' }).click();
        await page.waitForTimeout(300);
        if ((await methods.count()) === 0) continue;
        await methods.first().click();
        await shown.locator('.newest').waitFor();
      }
    },
  },
  {
    name: 'bench',
    as: 'isla',
    kept: true,
    open: async (page, address) => {
      await go('/practise?what=bench', /Practise/)(page, address);
      await chooseOption(page, 'Class', 'Counterbalance forklift truck');
      await page.getByRole('button', { name: 'Begin', exact: true }).click();
      const answer = page.getByRole('form', { name: 'Your answer' });
      await answer.waitFor();
      await answer.getByRole('button', { name: 'Watch' }).click();
      await answer.getByRole('button', { name: /^Go on/ }).click();
      await answer.getByRole('button', { name: 'Answer' }).click();
      await page.getByRole('group', { name: 'The key' }).waitFor();
    },
  },
  {
    name: 'desk',
    as: 'hilda',
    kept: true,
    open: async (page, address) => {
      const run = await beginDesk(page, {
        classId: 'wheel-loader',
        variant: 'diesel',
        program: 'start',
        mode: 'guided',
      });
      await page.goto(`${address}/practise/desk/${run}`);
      await page.getByRole('button', { name: 'In the seat' }).click();
      await page.getByRole('button', { name: 'Key switch: on', exact: true }).click();
      await page.evaluate(() => scrollTo(0, 0));
    },
  },
  {
    name: 'commands',
    as: 'hilda',
    kept: true,
    open: async (page, address) => {
      await go('/practise?what=commands', /Practise/)(page, address);
      await chooseOption(page, 'Class', 'Reach truck');
      await page.getByRole('button', { name: 'Begin', exact: true }).click();
      await page.getByRole('button', { name: 'Start', exact: true }).click();
      const right = page.getByRole('button', { name: 'Right', exact: true });
      for (let n = 0; n < 2; n++) await right.click();
      await right.click({ trial: true });
    },
  },
  {
    name: 'bench-result',
    as: 'isla',
    open: async (page, address) => {
      await go('/practise', /Practise/)(page, address);
      await page.getByText('Findings graded as the key').first().waitFor();
      await page
        .getByRole('link', { name: /^\d+ of \d+$/ })
        .first()
        .click();
      await page.getByRole('table').waitFor();
    },
  },
  { name: 'exercise-prepare', as: 'hilda', open: go('/teach/exercise', /Class exercise/) },
  { name: 'exercise-room', as: 'hilda', kept: true, open: openRoom },
  {
    name: 'exercise-screen',
    as: 'hilda',
    open: async (page, address) => {
      await openRoom(page, address);
      await page.goto(`${page.url()}/screen`);
      await page.getByText('the key', { exact: true }).waitFor();
    },
  },
  {
    name: 'exercise-report',
    as: 'hilda',
    open: async (page, address) => {
      await openRoom(page, address);
      await page.goto(`${page.url()}/report`);
      await page.getByRole('heading', { name: 'Everybody' }).waitFor();
    },
  },
  { name: 'calibration', as: 'hilda', open: go('/assess/calibration', /Evaluators/) },
  { name: 'replay', as: 'hilda', kept: true, open: replay },
  {
    name: 'calibration-report',
    as: 'hilda',
    kept: true,
    open: async (page, address) => {
      await go('/assess/calibration', /Evaluators/)(page, address);
      await page.getByRole('link', { name: 'Wheel loader', exact: true }).click();
      await page.getByRole('heading', { name: 'Mild and severe' }).waitFor();
    },
  },
  { name: 'insight', as: 'hilda', kept: true, open: go('/insight', /What is missed most/) },
  {
    name: 'items',
    as: 'hilda',
    open: async (page, address) => {
      await go('/insight/items?show=all', /Keys under scrutiny/)(page, address);
      await page.getByRole('table', { name: 'Items under scrutiny' }).waitFor();
    },
  },
  { name: 'exercise-join', as: null, open: go('/join', /Class exercise/) },
  { name: 'grading-policy', as: 'hilda', open: go('/settings?part=grading', /What holds/) },
  {
    name: 'drill-result',
    as: 'isla',
    open: async (page, address) => {
      await go('/practise', /Practise/)(page, address);
      const forklift = page.getByRole('article', { name: 'Counterbalance forklift truck' });
      await forklift.getByText('Whole rounds:').locator('..').getByRole('link').first().click();
      await page.getByRole('region', { name: 'Missed' }).waitFor();
    },
  },
  { name: 'supervisor-today', as: 'gordon', open: go('/', /20\d\d/) },
  {
    name: 'practise-overview',
    as: 'gordon',
    open: async (page, address) => {
      await go('/practise', /Practise/)(page, address);
      await page.getByRole('region', { name: 'Who practised' }).waitFor();
    },
  },
  { name: 'workshop-today', as: 'viktor', open: go('/', /20\d\d/) },
  { name: 'no-permission', as: 'viktor', open: go('/people', /Not open to your role/) },
  {
    name: 'verify',
    as: null,
    open: async (page, address) => {
      await page.goto(`${address}/verify/nothing-here`);
      await page.getByRole('heading', { name: 'No such card' }).waitFor();
    },
  },
  { name: 'lost', as: 'hilda', open: go('/nowhere', /nothing at this address/) },
];

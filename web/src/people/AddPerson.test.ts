import { peopleRoutes } from '@rounds/contract/people';
import { beforeEach, expect, it } from 'vitest';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { all, click, show, text, type } from '../testing/mount';
import AddPerson from './AddPerson.vue';

let server: FakeServer;
beforeEach(() => {
  server = fakeServer();
});
const open = () => show(AddPerson, { props: { open: true, sites: ['Quay'], teams: ['Blue'] } });

async function fill(payroll = '7') {
  await type('Given name', 'Anna');
  await type('Family name', 'Berg');
  await type('Payroll number', payroll);
  await type('Site', 'Quay');
  await type('Team', 'Blue');
}

it('sends what was typed, empty fields as no value, and nothing before it is right', async () => {
  server.answer(
    peopleRoutes.addPerson,
    ({ body }) =>
      ({
        ...(body as object),
        id: '01900000-0000-7000-8000-000000000001',
        active: true,
      }) as never,
  );
  await open();
  await click('button', 'Add');
  expect(text()).toContain('must not be empty');
  expect(server.asked(peopleRoutes.addPerson)).toEqual([]);
  await fill();
  await click('button', 'Add');
  expect(server.asked(peopleRoutes.addPerson)[0]!.body).toEqual({
    payroll: '7',
    givenName: 'Anna',
    familyName: 'Berg',
    site: 'Quay',
    team: 'Blue',
    email: null,
    born: null,
    started: null,
  });
});

it('says at the field what the server has against it, and keeps what was typed', async () => {
  server.answer(peopleRoutes.addPerson, () => {
    throw new Refusal('payroll-taken', 'Payroll number 7 belongs to Bo Dahl.');
  });
  await open();
  await fill();
  await click('button', 'Add');
  const field = all('textbox', 'Payroll number')[0]!.closest('.ant-form-item')!;
  expect(field.textContent).toContain('belongs to Bo Dahl');
  expect((all('textbox', 'Family name')[0] as HTMLInputElement).value).toBe('Berg');
});

it('tells of a refusal that belongs to no field above the button', async () => {
  server.answer(peopleRoutes.addPerson, () => {
    throw new Refusal('forbidden', 'This is not open to the role supervisor.');
  });
  await open();
  await fill();
  await click('button', 'Add');
  expect(all('alert')[0]!.textContent).toContain('not open to the role');
});

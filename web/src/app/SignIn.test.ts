import { accountRoutes } from '@rounds/contract/accounts';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { account, all, click, eventually, show, text, the, type } from '../testing/mount';
import SignIn from './SignIn.vue';

let server: FakeServer;
beforeEach(() => {
  server = fakeServer();
});

describe('signing in over a running evaluation', () => {
  const again = async () => {
    const shown = await show(SignIn, { props: { again: true } });
    shown.session.ended = true;
    return shown;
  };
  it('says what is kept, knows who it was, and goes on where they were', async () => {
    server.answer(accountRoutes.signIn, account('trainer'));
    const { session } = await again();
    expect(text()).toContain('Everything you tapped is kept on this device');
    expect((the('textbox', 'Sign-in name') as HTMLInputElement).value).toBe('trainer');
    await type('Password', 'a long password');
    await click('button', 'Sign in');
    await eventually(() => expect(session.ended).toBe(false));
    expect(session.account!.login).toBe('trainer');
  });
  it('starts somebody else from a clean page', async () => {
    const assign = vi.spyOn(location, 'assign').mockImplementation(() => undefined);
    server.answer(accountRoutes.signIn, {
      ...account('trainer'),
      id: '01900000-0000-7000-8000-0000000000bb',
    });
    const { session } = await again();
    await type('Sign-in name', 'other');
    await type('Password', 'a long password');
    await click('button', 'Sign in');
    await eventually(() => expect(assign).toHaveBeenCalledWith('/'));
    expect(session.ended).toBe(true);
    assign.mockRestore();
  });
  it('keeps the sheet up with the reason when the password is wrong', async () => {
    server.answer(accountRoutes.signIn, () => {
      throw new Refusal('wrong-sign-in', 'The name or the password is wrong, or the account is closed.');
    });
    const { session } = await again();
    await type('Password', 'a wrong password');
    await click('button', 'Sign in');
    await eventually(() => expect(all('alert')[0]!.textContent).toContain('the account is closed'));
    expect(session.ended).toBe(true);
  });
});

describe('the first visit', () => {
  it('shows at its field what the server has against it', async () => {
    const shown = await show(SignIn);
    shown.session.installation = { ...shown.session.installation!, needsAdministrator: true };
    await eventually(() => the('heading', 'Set up Rounds'));
    server.answer(accountRoutes.createAdministrator, () => {
      throw new Refusal('unknown-time-zone', '"Europe/Nowhere" is not a time zone name.');
    });
    await type('Organisation', 'Lower Yard');
    await type('Your name', 'Ada Holm');
    await type('Time zone of the site', 'Europe/Nowhere');
    await type('Sign-in name', 'ada');
    await type('Password', 'short');
    await click('button', 'Create the administrator');
    expect(text()).toContain('a password has at least 10 characters');
    expect(server.asked(accountRoutes.createAdministrator)).toEqual([]);
    await type('Password', 'a long password');
    await click('button', 'Create the administrator');
    const item = the('textbox', 'Time zone of the site').closest('.ant-form-item')!;
    await eventually(() => expect(item.textContent).toContain('not a time zone name'));
  });
});

import type { BearerState } from '@tombolo/contract';
import { checkProfile } from '@tombolo/core';
import type { Bearer } from '../../transmissions/bearer';
import type { BearerAdapter, BearerContext } from '../bearer';

/** A board or a gateway: no bearer stands, it is called in sessions over a modem. */
function createCalled(context: BearerContext): Bearer {
  const state: BearerState = {
    link: 'off',
    since: new Date(context.now()).toISOString(),
    reason: 'It is called when you start a session.',
    nextTryAt: null,
  };
  return { start: () => undefined, stop: async () => undefined, state: () => state };
}

export const board: BearerAdapter<'board'> = {
  kind: 'board',
  create: (_config, context) => createCalled(context),
  fault({ profile }) {
    const checked = checkProfile(profile);
    return checked.ok ? null : checked.error.reason;
  },
};
export const radioMail: BearerAdapter<'radio-mail'> = {
  kind: 'radio-mail',
  create: (_config, context) => createCalled(context),
};

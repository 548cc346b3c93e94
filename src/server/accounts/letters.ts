import { formatDay } from '../../core/time/format.ts';
import { plainMail } from '../letters/index.ts';
import { SECRET, type OutgoingMail } from '../mail/index.ts';

/** Somebody who gets a link by letter. */
export interface Linked {
  id: number;
  name: string;
  email: string;
  zone: string;
}

/** Where a link leads; its token stands behind the number sign, which no server writes down. */
export const linkAddress = (publicUrl: string, token: string): string =>
  `${publicUrl}/account/link#${token}`;

const firstName = (name: string): string => name.split(' ')[0]!;

/** The letter by which somebody comes to Marmot. */
export function welcomeLetter(
  to: Linked,
  token: string,
  facts: { organization: string; by: string; publicUrl: string; expiresAt: number },
): OutgoingMail {
  return {
    ...plainMail(
      {
        subject: `Your place in ${facts.organization}`,
        title: `Your place in ${facts.organization}`,
        opening: [
          `Dear ${firstName(to.name)},`,
          `${facts.by} has made you a place in Marmot, where ${facts.organization} finds times to meet and keeps its rooms. It takes about a minute: you choose a password and look whether your clock is right.`,
          `The link works once, until ${formatDay(facts.expiresAt, to.zone)}. You were not expecting this? Then do nothing.`,
        ],
        description: '',
        facts: [['You sign in with', to.email]],
        link: { href: linkAddress(facts.publicUrl, SECRET), label: 'Choose a password' },
      },
      to,
    ),
    purpose: { kind: 'welcome', personId: to.id },
    secret: token,
  };
}

/** The letter to the address that somebody had until now: it is how they know, should it not be meant so. */
export function addressChangedLetter(
  to: Pick<Linked, 'name' | 'email'>,
  facts: { address: string; organization: string; by: string },
): OutgoingMail {
  return plainMail(
    {
      subject: `Your address at ${facts.organization} is another one`,
      title: 'You sign in with another address from now on',
      opening: [
        `Dear ${firstName(to.name)},`,
        `${facts.by} changed the address by which you sign in to Marmot at ${facts.organization}. Letters go there from now on, and this one is the last that comes here.`,
        'You did not expect this? Then ask them, or another administrator, at once.',
      ],
      description: '',
      facts: [['Your new address', facts.address]],
      link: null,
    },
    to,
  );
}

/** The letter to somebody who forgot their password. */
export function passwordLetter(
  to: Pick<Linked, 'id' | 'name' | 'email'>,
  token: string,
  publicUrl: string,
): OutgoingMail {
  return {
    ...plainMail(
      {
        subject: 'Another password',
        title: 'Another password',
        opening: [
          `Dear ${firstName(to.name)},`,
          'Somebody, likely you, asked for another password here. The link works once, for an hour.',
          'It was not you? Then do nothing: your password stays as it is.',
        ],
        description: '',
        facts: [],
        link: { href: linkAddress(publicUrl, SECRET), label: 'Choose another password' },
      },
      to,
    ),
    purpose: { kind: 'password', personId: to.id },
    secret: token,
  };
}

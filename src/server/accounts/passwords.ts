import { dictionary } from '@zxcvbn-ts/language-common';
import { LEAST_PASSWORD } from '../../contract/limits.ts';
import { invalid } from '../../core/refusal.ts';
import { MOST_COMMON } from './limits.ts';

/**
 * The thousand most common ones that are as long as is asked, which are the first that are guessed, from the
 * frequency list of `@zxcvbn-ts/language-common`; shorter ones are refused by their length.
 */
const COMMON: ReadonlySet<string> = new Set(
  dictionary['passwords-common']
    .filter((word) => word.length >= LEAST_PASSWORD)
    .slice(0, MOST_COMMON),
);

/**
 * @param own what belongs to whoever chooses it: their name, address and organization
 * @throws Refusal where a password is one of the first that are guessed
 */
export function refuseCommon(password: string, own: readonly string[]): void {
  const plain = password.toLowerCase();
  const isOwn = own.some((one) => one.length > 0 && plain === one.toLowerCase());
  const isOneLetter = new Set(plain).size < 3;
  if (!COMMON.has(plain) && !isOwn && !isOneLetter) return;
  throw invalid([
    {
      field: 'password',
      message: isOwn
        ? 'must not be your name or address'
        : 'must not be one of the first that are guessed; a few words of your own are longer and easier to keep in mind',
    },
  ]);
}

import { bearsReadMe, type Target } from '@tambur/core';

/** What a user said last of the READ-ME; null if nobody did. */
const KEY = 'tambur.read-me';

/** True if a READ-ME goes with deliveries: as was last said, otherwise where the device does not mind. */
export function readMeWanted(sheet: Target): boolean {
  const said = localStorage.getItem(KEY);
  return bearsReadMe(sheet) && said !== 'no';
}

export const rememberReadMe = (isWanted: boolean): void => localStorage.setItem(KEY, isWanted ? 'yes' : 'no');

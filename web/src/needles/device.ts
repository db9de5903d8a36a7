/** What a device is called, and how two of one name are told apart: "phone#4f2a". */

const kind = (): string =>
  Math.min(screen.width, screen.height) < 600
    ? 'phone'
    : matchMedia('(pointer: coarse)').matches
      ? 'tablet'
      : 'computer';

/** A name for a device that has none yet. */
export const newDevice = (): string =>
  `${kind()}#${crypto.getRandomValues(new Uint16Array(1))[0]!.toString(16)}`;

/** The device's own name; one that was not given a name yet goes by its kind. */
export const ownDevice = (named: string): string => named || kind();

/** As a person reads it. */
export const shownDevice = (name: string): string => name.replace(/#[0-9a-f]*$/, '');

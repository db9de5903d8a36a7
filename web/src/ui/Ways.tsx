import { allWays, type WayId } from '@cordelina/core';

/** The ways of working, as a field offers them. */
export const WAY_CHOICES = allWays().map(({ id, name }) => [id as WayId, name] as const);

/** The same in few words, where there is little room. */
export const WAYS_SHORT = allWays().map(
  ({ id, worked }) => [id as WayId, worked[0]!.toUpperCase() + worked.slice(1)] as const,
);

/** The ways of working as the lines of a select. */
export const WayOptions = () =>
  WAY_CHOICES.map(([id, name]) => (
    <option key={id} value={id}>
      {name}
    </option>
  ));

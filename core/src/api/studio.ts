/** The studio: what is asked of it is a `StudioPatch`, what is answered a `Studio`. */

/** Bytes of a request that changes it: a change of it is small. */
export const LARGEST_STUDIO_CHANGE = 1_000_000;

/** What the command line knows, and how it is asked for. */

/** It was asked for something in a way that makes no sense: one sentence. */
export class Misuse extends Error {}

/** Exit codes: all is well; something was found; it could not be done. */
export const EXIT = { well: 0, found: 1, failed: 2 } as const;

export const USAGE = `cordelina: cable charts and their words, from the command line

  cordelina check FILE…     finds what cannot be knitted or does not agree; exit code 1 where anything is an error
  cordelina write FILE…     the words of designs, written and proved
  cordelina read FILE…      written patterns as designs (JSON)
  cordelina convert FILE… --to json|xlsx|csv|html|md|txt|svg
  cordelina pdf FILE…       the sheet for print
  cordelina backup FILE     everything in a workroom as one zip
  cordelina restore FILE    what a backup holds, back into a workroom
  cordelina serve           the workroom itself

FILE is a design (.json, .xlsx, .csv) or a written pattern (text). It may hold * and **, and - is standard input.

  -o, --out DIR       files are written there; without it, to standard output
      --force         files that are there are written over
      --json          findings as JSON (check)
      --strict        cautions count as errors (check)
      --school NAME   how names of crossings in a pattern are understood: front-back, total-hold, total-lean,
                      total-ground, worked-order, spelled
      --way NAME      how a pattern is worked where it does not say: flat, round, double, double-round
      --first WS      the side of its first row where it does not say
      --url URL       the workroom's server (backup, restore); else the folder is opened: CORDELINA_DATA, or ./data
      --take WHAT     new (what is not there), beside (the rest as copies), all (what differs becomes as it was) (restore)
      --quiet         nothing on standard error but faults
  -h, --help          this
`;

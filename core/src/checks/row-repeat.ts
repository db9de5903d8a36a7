import { counted, type Check, type Finding } from './finding.js';

/** Flat, a repeat of an odd number of rows turns right-side rows into wrong-side ones on the second pass. */
export const oddRepeat: Check = ({ chart }) => {
  const { up } = chart;
  if (!up || chart.construction === 'round') return [];
  const rows = chart.rows.length - up.setup - up.closing;
  if (rows % 2 === 0) return [];
  return [
    {
      id: 'odd-row-repeat',
      level: 'error',
      row: up.setup + rows,
      message: `The repeat of rows ${up.setup + 1}–${up.setup + rows} is ${counted(rows, 'row')} high: worked flat, its right-side rows become wrong-side rows on the second pass.`,
    },
  ];
};

/**
 * The needle after the repeat up equals the needle before it: as many loops, with the same faces. Before
 * row 1 the needle holds the cast-on, which shows no face yet; there only the counts are compared.
 */
export const needleAtRepeat: Check = ({ chart, works }) => {
  const { up } = chart;
  if (!up) return [];
  const first = up.setup;
  const last = chart.rows.length - up.closing - 1;
  const end = works[last]!;
  const start = first > 0 ? works[first - 1]!.faces : null;
  const live = start ? start.length : works[0]!.takes;
  const rows = `${first + 1}–${last + 1}`;
  const finding = (message: string, columns?: [number, number]): Finding[] => [
    { id: 'needle-at-repeat', level: 'error', row: last + 1, columns, message },
  ];
  if (end.makes !== live)
    return finding(
      `The repeat of rows ${rows} begins with ${counted(live, 'stitch')} and ends with ${end.makes}: it cannot be worked again.`,
    );
  const differing = start?.findIndex((face, i) => face !== end.faces[i]) ?? -1;
  if (differing < 0) return [];
  return finding(
    `The repeat of rows ${rows} ends unlike it begins: stitch ${differing + 1} from the right is ${end.faces[differing]} after row ${last + 1} and was ${start![differing]} before row ${first + 1}.`,
  );
};

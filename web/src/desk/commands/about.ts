/** What each room is for, and what it counts on: told above its keys. */

export interface About {
  room: string;
  /** By the address it stands at. */
  at: RegExp;
  isFor: string;
  /** What must hold for what it says, and what it leaves to the hands. */
  countsOn: string;
}

export const ABOUT: readonly About[] = [
  {
    room: 'Workroom',
    at: /^\/$/,
    isFor:
      'Every design as a card: its cloth, its size, whether its counts come out. A design begins here, is found again here, and lies in the basket for 30 days when it is taken out.',
    countsOn:
      'Everything is kept in this browser at once and sent to the server as soon as it answers; a card says what waits.',
  },
  {
    room: 'Swatch book',
    at: /^\/swatches/,
    isFor:
      'Swatches as they were measured, before and after the wash. Setting out takes its gauges from here.',
    countsOn:
      'A gauge is what one yarn, needle and hand gave once. A ruler laid over ten centimetres or more says more than one over five.',
  },
  {
    room: 'Import',
    at: /^\/import/,
    isFor:
      'A pattern in words becomes a chart; what is unclear is asked at its very place, and nothing is guessed.',
    countsOn: 'Rows that say how they are worked, each with its number; counts and a key help it to be sure.',
  },
  {
    room: 'Bench',
    at: /^\/designs\/[^/]+$/,
    isFor:
      'The chart, with the words and the count of each row on its line. Draw, and it is written; write, and it is drawn. What does not come out is found and, where it can be, mended. A picture of a chart can be laid under it and traced.',
    countsOn:
      'Cells show the right side. Counts are worked over the needle of the row below; words and chart are held against each other with every change.',
  },
  {
    room: 'Cloth',
    at: /\/cloth$/,
    isFor: 'The fabric as it will look, from either side, at the gauge of your swatch.',
    countsOn:
      'An ordinary wool unless a swatch is fitted. It is a picture to judge ropes by, not a promise of width.',
  },
  {
    room: 'Words',
    at: /\/words$/,
    isFor: 'The pattern as it will be printed: words, charts, key; on paper, as a PDF or as text.',
    countsOn:
      'The seal says that these very words were read back, worked on a needle, and found equal to the chart. It is gone while anything is otherwise.',
  },
  {
    room: 'Setting out',
    at: /\/setting-out$/,
    isFor:
      'The piece: panels, grounds and edges along a ruler, in every size; what to cast on, and where panels meet again.',
    countsOn: 'Gauges from your swatches. Without them there are stitches and no centimetres.',
  },
  {
    room: 'Machine',
    at: /\/machine$/,
    isFor: 'The chart as a list for two beds: which needles are moved when, by the row counter.',
    countsOn:
      'The list has been run on simulated beds and made this chart’s cloth. Carriage and yarn are yours.',
  },
  {
    room: 'Needles',
    at: /\/needles$|^\/knit\//,
    isFor: 'One row at a time, the place kept on every device; notes that go back to the designer.',
    countsOn:
      'She knits from the design as it was when she cast on; a change of it is told, and never sprung on her.',
  },
];

export const aboutAt = (path: string): About | undefined => ABOUT.find(({ at }) => at.test(path));

import {
  castOnOf,
  checkPiece,
  fitPiece,
  layOut,
  PIECE_LIMITS,
  cellsWorked,
  checkChart,
  countOver,
  countsOf,
  expandPiece,
  fit as fitParts,
  homeOf,
  listOf,
  MachineRequest,
  MachineRunRequest,
  runMachine,
  FitSchema,
  lowestMultiple,
  NotRepeatable,
  readDesign,
  readPattern,
  passesOf,
  SettingsSchema,
  sheetOf,
  sideOf,
  spread as spreadOver,
  StyleSchema,
  summarise,
  timesOf,
  wayOf,
  sealOf,
  seenBehind,
  writeAndProve,
  writeDesign,
  type Chart,
  type Piece,
  type Summary,
  canFill,
  CARD_PICTURE,
  ChartSchema,
  CheckRequest,
  filling,
  ExpandRequest,
  MOST_CELLS,
  MOST_CELLS_IN_SIZES,
  MOST_CELLS_PRINTED,
  PdfRequest,
  PieceRequest,
  ReadRequest,
  SpreadRequest,
  SummarySchema,
  TurnRequest,
  WriteRequest,
} from '@cordelina/core';
import { clothAvif } from '../pictures/cloth.js';
import { pdfOf, type Pdf } from '../pdf/sheet-pdf.js';
import { ApiError, outcome, outcomeOf, parsed, parsedJson, type Outcome } from './faults.js';

/** Stateless computation: the core on JSON that came from outside. Answers are JSON, ready to be sent. */

/** Refuses a piece that would take too long: its cells with all its repeats, each of its rows worked so often. */
function refuseTooLarge(chart: Chart, times = timesOf(chart), passes = passesOf(chart)): void {
  const cells = cellsWorked(chart, times, passes);
  if (cells > MOST_CELLS)
    throw new ApiError(
      413,
      `With all its repeats this piece has ${cells} cells; at most ${MOST_CELLS} are worked at once.`,
      'chart.across.times',
    );
}

type Answer = Outcome<string>;

export function read(body: Uint8Array): Answer {
  return outcome(() => {
    const { text, ...options } = parsed(ReadRequest, parsedJson(body));
    return JSON.stringify(readPattern(text, options));
  });
}

export function check(body: Uint8Array): Answer {
  return outcome(() => {
    const { chart, rules, meant } = parsed(CheckRequest, parsedJson(body));
    const { of, plus, least } = lowestMultiple(chart);
    // What is counted is loops on the needle: a cell of double knitting is two.
    const { loops } = wayOf(chart);
    const counts = chart.rows.map((_, r) => {
      const { takes, makes } = countsOf(chart, r);
      return { row: r + 1, side: sideOf(chart, r), takes: takes * loops, makes: makes * loops };
    });
    const pairs = castOnOf(chart);
    return JSON.stringify({
      counts,
      castOn: pairs * loops,
      ...(loops === 2 && { pairs, home: homeOf(chart) }),
      multiple: { of: of * loops, plus: plus * loops },
      least: least && least * loops,
      findings: checkChart(chart, { rules, meant }),
    });
  });
}

export function write(body: Uint8Array): Answer {
  return outcome(() => {
    const { chart, school, style } = parsed(WriteRequest, parsedJson(body));
    // A proof works one repeat more than the designer does; a pass that meets a needle again reads as before.
    refuseTooLarge(chart, timesOf(chart) + 1, 1);
    const settings = SettingsSchema.parse({ school, style: StyleSchema.parse(style ?? {}) });
    const { text, rows, castOn, multiple, least, key, checked, against, problems } = writeAndProve(
      chart,
      settings,
    );
    // Words of double knitting count pairs; what is cast on are loops.
    const { loops } = wayOf(chart);
    const onNeedle = { castOn: castOn * loops, ...(loops === 2 && { pairs: castOn }) };
    return JSON.stringify({ text, rows, ...onNeedle, multiple, least, key, checked, against, problems });
  });
}

/** The cloth of a chart as its other side shows it. */
export function turn(body: Uint8Array): Answer {
  return outcome(() => JSON.stringify({ chart: seenBehind(parsed(TurnRequest, parsedJson(body)).chart) }));
}

export function expand(body: Uint8Array): Answer {
  return outcome(() => {
    const { chart, times, passes } = parsed(ExpandRequest, parsedJson(body));
    refuseTooLarge(chart, times, passes);
    try {
      return JSON.stringify({ rows: expandPiece(chart, times, passes) });
    } catch (error) {
      if (!(error instanceof NotRepeatable)) throw error;
      throw new ApiError(400, error.message, `chart.rows.${error.row - 1}`);
    }
  });
}

/** The operator's list of a chart, run on the simulated beds. */
export function machine(body: Uint8Array): Answer {
  return outcome(() => {
    const { chart, ...method } = parsed(MachineRequest, parsedJson(body));
    refuseTooLarge(chart);
    try {
      return JSON.stringify(listOf(chart, method));
    } catch (error) {
      if (!(error instanceof NotRepeatable)) throw error;
      throw new ApiError(400, error.message, `chart.rows.${error.row - 1}`);
    }
  });
}

/** Any list, run on the simulated beds. */
export function machineRun(body: Uint8Array): Answer {
  return outcome(() => {
    const { setup, actions, rows } = parsed(MachineRunRequest, parsedJson(body));
    return JSON.stringify(runMachine(setup, actions, rows));
  });
}

/** An increase or decrease row; where one row cannot do it, the reason in place of the words. */
export function spread(body: Uint8Array): Answer {
  return outcome(() =>
    JSON.stringify({ words: '', positions: [], ...spreadOver(parsed(SpreadRequest, parsedJson(body))) }),
  );
}

/** The ways of a piece that come nearest to a width. */
export function fit(body: Uint8Array): Answer {
  return outcome(() => JSON.stringify(fitParts(parsed(FitSchema, parsedJson(body)))));
}

/** Refuses a piece whose sizes together would take too long. */
function refuseManySizes(charts: readonly Chart[], piece: Piece): void {
  const gauge = (piece.gauge.whole ?? piece.gauge.plain)?.rows;
  const cells = piece.sizes.reduce((sum, size) => {
    const rows = size.length !== null && gauge ? countOver(gauge, size.length) : PIECE_LIMITS.rows;
    // Without a gauge no width is worked out: only stitches are asked for.
    const bare = { ...piece, gauge: { plain: null, whole: null } };
    return sum + layOut({ charts }, bare, size).stitches * Math.min(rows, PIECE_LIMITS.rows);
  }, 0);
  if (cells > MOST_CELLS_IN_SIZES)
    throw new ApiError(
      413,
      `In all its sizes this piece may have ${Math.round(cells)} cells; at most ${MOST_CELLS_IN_SIZES} are worked at once.`,
      'piece.sizes',
    );
}

/** A piece in words and numbers, each size worked on its own needle; where it cannot be put together, why. */
export function piece(body: Uint8Array): Answer {
  return outcome(() => {
    const { charts, piece: asked, school, style, units, fitted } = parsed(PieceRequest, parsedJson(body));
    refuseManySizes(charts, asked);
    const settings = SettingsSchema.parse({ school, style: StyleSchema.parse(style ?? {}) });
    const design = { charts, settings: { cloth: { fitted } } };
    const findings = checkPiece(design, asked, units).map(({ fix: _, others: __, ...finding }) => finding);
    const sizes = asked.sizes.map((size) => {
      const { parts, stitches, width, multiple } = layOut(design, asked, size);
      return {
        id: size.id,
        name: size.name,
        stitches,
        width,
        multiple,
        parts: parts.map((p) => ({
          id: p.part.id,
          name: p.name,
          stitches: p.stitches,
          from: p.before + 1,
          width: p.width,
        })),
        fit: fitPiece(design, asked, size),
      };
    });
    // Panels are told by the rows of their charts: these are given with it, and the one key.
    const { piece: words, text, problems } = writeDesign(charts, asked, { ...settings, ...design.settings });
    if (!words)
      return JSON.stringify({
        sections: [],
        sizes,
        text,
        findings,
        checked: false,
        problems: problems.map(({ message }) => message),
      });
    const { sections, sizes: made, markers, checked, problems: wrong } = words;
    const all = sizes.map((size, i) => ({ ...size, ...made[i]! }));
    return JSON.stringify({ sections, sizes: all, markers, text, findings, checked, problems: wrong });
  });
}

/** A design's sheet as a PDF: the same blocks as the page shows, charts as vectors, fonts embedded. */
export function pdf(body: Uint8Array): Promise<Outcome<Pdf>> {
  return outcomeOf(async () => {
    const { document, corrections } = parsed(PdfRequest, parsedJson(body));
    const design = readDesign(document);
    const { charts, settings } = design;
    const cells = charts.reduce((sum, { width, rows }) => sum + width * rows.length, 0);
    if (cells > MOST_CELLS_PRINTED)
      throw new ApiError(
        413,
        `The charts of this design have ${cells} cells; at most ${MOST_CELLS_PRINTED} are set in one PDF. Print from the browser instead.`,
      );
    for (const chart of charts) refuseTooLarge(chart, timesOf(chart) + 1, 1);
    if (design.piece) refuseManySizes(charts, design.piece);
    const written = writeDesign(charts, design.piece, settings);
    return pdfOf(design, sheetOf(design, written, true, corrections));
  });
}

/** What the card of a stored document shows. */
export function summary(document: string): Outcome<Summary> {
  return outcome(() => summarise(readDesign(JSON.parse(document))));
}

/** Whether the words of a stored document are proved, as JSON. */
export function seal(document: string): Answer {
  return outcome(() => {
    const { charts, piece, settings } = readDesign(JSON.parse(document));
    for (const chart of charts) refuseTooLarge(chart, timesOf(chart) + 1, 1);
    if (piece) refuseManySizes(charts, piece);
    return JSON.stringify(sealOf(writeDesign(charts, piece, settings)));
  });
}

/** The picture of a card, from its summary as it is stored. */
export function picture(summary: string): Promise<Outcome<Uint8Array>> {
  return outcomeOf(() => {
    const { preview, ...dye } = SummarySchema.parse(JSON.parse(summary));
    const size = { width: 2 * CARD_PICTURE.width, height: 2 * CARD_PICTURE.height };
    const chart = filling(ChartSchema.parse(preview), CARD_PICTURE);
    return clothAvif(chart, dye, size, canFill(chart, CARD_PICTURE.width));
  });
}

/** Tells that the thread has begun. */
export const ready = (_nothing: null): Outcome<true> => ({ value: true });

export type ComputeJobs = {
  ready: typeof ready;
  read: typeof read;
  check: typeof check;
  write: typeof write;
  expand: typeof expand;
  turn: typeof turn;
  machine: typeof machine;
  machineRun: typeof machineRun;
  spread: typeof spread;
  fit: typeof fit;
  piece: typeof piece;
  pdf: typeof pdf;
  summary: typeof summary;
  picture: typeof picture;
  seal: typeof seal;
};

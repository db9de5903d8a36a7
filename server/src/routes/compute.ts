import { Router } from 'express';
import {
  castOnOf,
  ChartSchema,
  checkChart,
  countsOf,
  multipleOf,
  readPattern,
  SchoolSchema,
  SettingsSchema,
  sideOf,
  StyleSchema,
  timesOf,
  writeAndProve,
  type Chart,
} from '@cordelina/core';
import { z } from 'zod';
import { ApiError, parsed } from '../errors.js';

const MOST_CELLS = 1_500_000;
const LONGEST_TEXT = 400_000;

const ReadRequest = z.strictObject({
  text: z.string().min(1).max(LONGEST_TEXT),
  construction: z.enum(['flat', 'round']),
  firstRow: z.enum(['RS', 'WS']).default('RS'),
  school: SchoolSchema.optional(),
});

const CheckRequest = z.strictObject({ chart: ChartSchema });

const WriteRequest = z.strictObject({
  chart: ChartSchema,
  school: SchoolSchema.default('front-back'),
  style: StyleSchema.partial().optional(),
});

/** Refuses a piece whose proof would hold the server up: width with all repeats times rows. */
function refuseTooLarge(chart: Chart): void {
  const { across } = chart;
  const repeat = across ? chart.width - across.before - across.after : 0;
  const cells = (chart.width + repeat * timesOf(chart)) * chart.rows.length;
  if (cells > MOST_CELLS)
    throw new ApiError(
      413,
      `With all its repeats this piece has ${cells} cells; at most ${MOST_CELLS} are proved at once.`,
      'chart.across.times',
    );
}

/** Stateless computation: the core over HTTP, JSON in and out. */
export function computeRoutes(): Router {
  const router = Router();

  router.post('/read', (req, res) => {
    const { text, ...options } = parsed(ReadRequest, req.body);
    res.json(readPattern(text, options));
  });

  router.post('/check', (req, res) => {
    const { chart } = parsed(CheckRequest, req.body);
    const counts = chart.rows.map((row, r) => ({
      row: r + 1,
      side: sideOf(chart, r),
      ...countsOf(row, chart),
    }));
    res.json({ counts, castOn: castOnOf(chart), multiple: multipleOf(chart), findings: checkChart(chart) });
  });

  router.post('/write', (req, res) => {
    const { chart, school, style } = parsed(WriteRequest, req.body);
    refuseTooLarge(chart);
    const settings = SettingsSchema.parse({ school, style: StyleSchema.parse(style ?? {}) });
    const { text, rows, castOn, multiple, key, checked, against, problems } = writeAndProve(chart, settings);
    res.json({ text, rows, castOn, multiple, key, checked, against, problems });
  });

  return router;
}

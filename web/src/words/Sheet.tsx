import type { Chart, KeyEntry, SheetBlock, SheetSettings } from '@cordelina/core';
import { BESIDE, chartHolding, keyTold, PRINT_INKS } from '@cordelina/core';
import { PictureSvg } from '../ui/ChartSvg.js';
import type { Manner } from '../ui/paint.js';
import { SmallCloth } from '../ui/fabric/SmallCloth.js';
import { StitchDrawing } from '../ui/StitchDrawing.js';
import { ChartBlocks } from '../ui/ChartBlocks.js';

/** What the blocks of a sheet are shown with. */
interface Showing {
  charts: readonly Chart[];
  manner: Manner;
  page: SheetSettings['page'];
  /** The share of the page's width there is. */
  share?: number;
  isLarge: boolean;
  /** Words of a design that has changed since are shown faintly until it is written anew. */
  isCurrent: boolean;
}

/** The sheet, block by block, as it will be printed. Sizes are in em, so that large print is one size for all. */
export function Sheet({ blocks, ...showing }: { blocks: readonly SheetBlock[] } & Showing) {
  return blocks.map((block, i) => <One key={i} block={block} {...showing} />);
}

function One({ block, ...showing }: { block: SheetBlock } & Showing) {
  switch (block.type) {
    case 'title':
      return (
        <header>
          <h1 className="text-[2em] leading-tight font-semibold">{block.text}</h1>
          {block.by && <p className="mt-0.5 text-[1.05em]">{block.by}</p>}
        </header>
      );
    case 'heading':
      return block.level === 3 ? (
        <h3 className="mt-[1em] mb-[0.2em] text-[1.1em] font-semibold break-after-avoid">{block.text}</h3>
      ) : (
        <h2 className="mt-[1.3em] mb-[0.4em] text-[1.3em] font-semibold break-after-avoid">{block.text}</h2>
      );
    case 'text':
      return <p className={TONES[block.tone]}>{block.text}</p>;
    case 'rows':
      return (
        <ol
          aria-label={block.label}
          className={`mt-[0.5em] grid grid-cols-[fit-content(min(13em,34%))_1fr] gap-x-[1em] gap-y-[0.28em] ${showing.isCurrent ? '' : 'opacity-60'}`}
          data-testid="rows"
        >
          {block.rows.map(({ head, words }) => (
            <li
              key={`${head} ${words}`}
              className="col-span-2 grid break-inside-avoid grid-cols-subgrid leading-snug"
            >
              <span className="font-semibold">{head}</span>
              <span className="font-mono text-[0.9em]">{words}</span>
            </li>
          ))}
        </ol>
      );
    case 'chart':
      return (
        <figure className="mt-[0.4em]">
          <ChartBlocks
            chart={block.chart}
            manner={showing.manner}
            label={block.label}
            page={showing.page}
            share={showing.share}
            cell={showing.isLarge ? 23 : 18}
          />
          {block.caption && <figcaption className="mt-1 text-[0.93em] italic">{block.caption}</figcaption>}
        </figure>
      );
    case 'schematic':
      return (
        <PictureSvg
          picture={block.picture}
          label={block.label}
          style={{ width: `${block.picture.box.width}em`, maxWidth: '100%' }}
          className="my-[0.6em] font-sans"
        />
      );
    case 'cloth':
      return (
        <figure role="img" aria-label={block.label} className="mt-[0.4em] w-fit break-inside-avoid">
          <SmallCloth chart={block.chart} width={CLOTH.width} height={CLOTH.height} dye={block.dye} />
        </figure>
      );
    case 'words':
      return (
        <dl className="columns-2 gap-[2em] text-[0.93em]" data-testid="abbreviations">
          {block.lines.map(({ word, steps }) => (
            <div key={word} className="mb-[0.25em] break-inside-avoid">
              <dt className="inline font-mono text-[0.93em] font-semibold">{word}</dt>{' '}
              <dd className="inline">{steps}</dd>
            </div>
          ))}
        </dl>
      );
    case 'key':
      return <Key {...block} {...showing} />;
    case 'proof':
      return <p className="mt-[1em] hidden text-[0.87em] print:block">{block.text}</p>;
    case 'beside':
      return (
        <div className="mt-[0.5em] grid gap-x-[1.5em] sm:grid-cols-[1fr_minmax(0,46%)] print:grid-cols-[1fr_minmax(0,46%)]">
          <div className="min-w-0">
            <Sheet blocks={block.left} {...showing} />
          </div>
          <div className="min-w-0 pt-[2.2em]">
            <Sheet blocks={block.right} {...showing} share={BESIDE} />
          </div>
        </div>
      );
  }
}

/** The picture of a cloth on the sheet, in pixels: as on paper, where it is 12 cm wide. */
const CLOTH = { width: 454, height: 300 } as const;

const TONES = {
  plain: 'mt-[0.35em] text-[1.05em] whitespace-pre-line',
  notes: 'mt-[0.35em] whitespace-pre-line italic text-slate print:text-peat',
  small: 'mt-[1.6em] text-[0.9em] italic text-slate print:text-peat',
};

function Key({
  entries,
  isBrief,
  charts,
  manner,
}: { entries: readonly KeyEntry[]; isBrief: boolean } & Showing) {
  return (
    <ul className="grid gap-[0.65em]" data-testid="key">
      {entries.map((entry, i) => {
        return (
          <li
            key={i}
            className="grid break-inside-avoid grid-cols-[120px_1fr_4em] max-md:grid-cols-[72px_1fr_3em] items-start gap-3"
          >
            {entry.stitch === null ? (
              <span />
            ) : (
              <span className="min-w-0 max-md:[&>svg]:h-auto max-md:[&>svg]:max-w-full">
                <StitchDrawing
                  stitch={entry.stitch}
                  chart={chartHolding(charts, entry.stitch)}
                  plain={manner.plain}
                  height={22}
                  most={116}
                  inks={PRINT_INKS}
                />
              </span>
            )}
            <div className="leading-snug">
              <span className="font-semibold">{entry.name}</span>
              {keyTold(entry, isBrief).map(({ side, word, steps, loose }, k) => (
                <p key={k}>
                  {side && <span className="text-slate print:text-peat">{side} </span>}
                  {word && <span className="font-mono text-[0.87em]">{steps ? `${word}: ` : word}</span>}
                  {steps}
                  {loose && <span className="block italic">without a cable needle: {loose}</span>}
                </p>
              ))}
            </div>
            <span
              className="text-right text-[0.93em] text-slate print:text-peat"
              title="loops taken and made"
            >
              {entry.stitch !== null && `${entry.takes} → ${entry.makes}`}
            </span>
          </li>
        );
      })}
    </ul>
  );
}

import { chartHolding } from '../chart/charts.js';
import type { Chart, Design } from '../chart/schema.js';
import { PRINT_INKS, TOKENS } from '../drawing/inks.js';
import { pictureOf } from '../drawing/page.js';
import { styleOf } from '../drawing/scene.js';
import { escapedXml as e, shapesText, svgInside, viewBoxOf, type SvgManner } from '../drawing/svg.js';
import { drawStitch } from '../drawing/symbols.js';
import type { Picture } from '../drawing/page.js';
import type { SheetBlock } from '../sheet/sheet.js';
import { spanOf, stitchBook, type Stitch } from '../stitches/book.js';
import { keyTold } from '../words/key.js';

/**
 * A design's sheet as one page that opens anywhere, without the server and without the network: charts as drawings, words, a box to
 * tick at every row. What is ticked is kept by the browser it is ticked in.
 */

/** The rows a printed head speaks of: "Rows 4, 6 and 8–10 (RS)". */
export function rowsOfHead(head: string): number[] {
  const told = head.replace(/\(.*?\)/g, '');
  return [...told.matchAll(/(\d+)(?:\s*[–-]\s*(\d+))?/g)].flatMap(([, from, to]) => {
    const [first, last] = [Number(from), Number(to ?? from)];
    return last >= first && last - first < 2000
      ? Array.from({ length: last - first + 1 }, (_, i) => first + i)
      : [];
  });
}

interface Making {
  design: Design;
  charts: readonly Chart[];
  manner: SvgManner & ReturnType<typeof styleOf>;
  drawn: number;
  rows: number;
}

const svg = (picture: Picture, manner: SvgManner, label: string, width: number): string =>
  `<svg role="img" aria-label="${e(label)}" viewBox="${viewBoxOf(picture)}" style="width:${Math.ceil(picture.box.width * width)}px">${svgInside(picture, manner)}</svg>`;

function symbol(stitch: Stitch, { design, charts }: Making): string {
  const book = stitchBook(chartHolding(charts, stitch).own);
  const span = spanOf(stitch, book);
  return `<svg aria-hidden="true" viewBox="-0.04 -0.04 ${span + 0.08} 1.08" style="width:${Math.min(116, span * 22)}px"><rect width="${span}" height="1" fill="#fff" stroke="${TOKENS.ruleHeavy}" stroke-width="0.05"/>${shapesText(drawStitch(stitch, design.settings.plain, book), PRINT_INKS)}</svg>`;
}

const paragraphs = (text: string): string => e(text).replace(/\n/g, '<br>');

function blockHtml(block: SheetBlock, making: Making): string {
  switch (block.type) {
    case 'title':
      return `<header><h1>${e(block.text)}</h1>${block.by ? `<p>${e(block.by)}</p>` : ''}</header>`;
    case 'heading':
      return `<h${block.level}>${e(block.text)}</h${block.level}>`;
    case 'text':
      return `<p class="${block.tone}">${paragraphs(block.text)}</p>`;
    case 'proof':
      return `<p class="small">${e(block.text)}</p>`;
    case 'rows':
      return `<ol class="rows" aria-label="${e(block.label)}">${block.rows
        .map(({ head, words }) => {
          const id = `r${making.rows++}`;
          return `<li><label for="${id}"><input type="checkbox" id="${id}" data-chart="${e(block.label)}" data-rows="${rowsOfHead(head).join(' ')}"> <b>${e(head)}:</b> <span>${e(words)}</span></label></li>`;
        })
        .join('')}</ol>`;
    case 'words':
      return `<dl>${block.lines.map(({ word, steps }) => `<dt>${e(word)}</dt><dd>${e(steps)}.</dd>`).join('')}</dl>`;
    case 'chart': {
      const prefix = `c${making.drawn++}-`;
      const picture = pictureOf(block.chart, making.manner, PRINT_INKS);
      const drawing = svg(picture, { ...making.manner, prefix, isNamed: true }, block.label, 20);
      return `<figure class="chart" data-label="${e(block.label)}"><div>${drawing}</div>${block.caption ? `<figcaption>${e(block.caption)}</figcaption>` : ''}</figure>`;
    }
    case 'schematic':
      return `<figure>${svg(block.picture, { inks: PRINT_INKS, prefix: `s${making.drawn++}-` }, block.label, 16)}</figure>`;
    case 'cloth':
      return '';
    case 'key':
      return `<ul class="key">${block.entries
        .map(
          (entry) =>
            `<li><span>${entry.stitch === null ? '' : symbol(entry.stitch, making)}</span><div><b>${e(entry.name)}</b>${keyTold(
              entry,
              block.isBrief,
            )
              .map(
                ({ side, word, steps, loose }) =>
                  `<p>${side ? `${side} ` : ''}${word ? `<code>${e(word)}${steps ? ':' : ''}</code> ` : ''}${e(steps ?? '')}${loose ? `<br><i>without a cable needle: ${e(loose)}</i>` : ''}</p>`,
              )
              .join('')}</div></li>`,
        )
        .join('')}</ul>`;
    case 'beside':
      return `<div class="beside"><div>${block.left.map((b) => blockHtml(b, making)).join('')}</div><div>${block.right.map((b) => blockHtml(b, making)).join('')}</div></div>`;
  }
}

const STYLE = `
:root{color-scheme:light}
body{margin:0;background:${TOKENS.fleece};color:${TOKENS.peat};font:17px/1.5 Vollkorn,Georgia,serif;font-feature-settings:'lnum','tnum'}
main{max-width:820px;margin:0 auto;padding:28px 20px 80px;background:${TOKENS.chalk}}
h1{font-size:30px;margin:0 0 4px}h2{font-size:21px;margin:28px 0 6px}h3{font-size:18px;margin:18px 0 4px}
p{margin:6px 0}.notes{font-style:italic}.small{font-size:15px;color:${TOKENS.slate}}
ol.rows{list-style:none;margin:8px 0;padding:0}ol.rows li{border-top:1px solid ${TOKENS.rule}}
ol.rows label{display:block;padding:9px 4px 9px 36px;position:relative;cursor:pointer}
ol.rows input{position:absolute;left:4px;top:13px;width:20px;height:20px;margin:0;accent-color:${TOKENS.lichen}}
ol.rows li:has(:checked) span{color:${TOKENS.slate};text-decoration:line-through;text-decoration-thickness:1px}
ol.rows li.next{background:${TOKENS.wash}}
figure{margin:10px 0}figure.chart>div{overflow:auto;background:#fff;padding:6px;border:1px solid ${TOKENS.rule}}
svg{display:block;max-width:none;height:auto;font-family:'Source Sans 3','Segoe UI',sans-serif}
figure:not(.chart) svg,.key svg{max-width:100%}
[data-row].done{opacity:.3}
ul.key{list-style:none;padding:0}ul.key li{display:grid;grid-template-columns:120px 1fr;gap:12px;margin:10px 0}
code{font:15px 'Source Code Pro',ui-monospace,monospace}dt{font:15px 'Source Code Pro',ui-monospace,monospace;float:left;margin-right:8px}dd{margin:0 0 4px}
.beside{display:grid;grid-template-columns:1fr 1fr;gap:20px}
#bar{position:sticky;top:0;display:flex;gap:14px;align-items:center;justify-content:space-between;max-width:820px;margin:0 auto;padding:8px 20px;box-sizing:border-box;background:${TOKENS.wash};border-bottom:1px solid ${TOKENS.rule};font:15px 'Source Sans 3','Segoe UI',sans-serif;z-index:1}
button{font:inherit;min-height:36px;padding:4px 12px;background:${TOKENS.chalk};border:1px solid ${TOKENS.ruleHeavy};border-radius:2px;color:inherit}
@media (max-width:640px){.beside{grid-template-columns:1fr}ul.key li{grid-template-columns:72px 1fr}}
@media print{body,main{background:#fff}#bar,ol.rows input{display:none}ol.rows label{padding-left:0}}
`;

/** Ticks: kept by the browser, shown on the charts, and taken back all at once. Nothing is fetched, nothing is sent. */
const SCRIPT = `
(() => {
  const boxes = [...document.querySelectorAll('ol.rows input')];
  const bar = document.getElementById('bar');
  const key = 'cordelina ticks ' + document.documentElement.dataset.design;
  let kept = {};
  try { kept = JSON.parse(localStorage.getItem(key)) || {}; } catch { bar.dataset.unkept = ''; }
  const charts = [...document.querySelectorAll('figure.chart')];
  const chartOf = (name) => charts.length === 1 ? charts : charts.filter((c) => c.dataset.label.endsWith(' ' + name));
  const show = () => {
    const done = boxes.filter((b) => b.checked).length;
    const next = boxes.find((b) => !b.checked);
    boxes.forEach((b) => b.closest('li').classList.toggle('next', b === next && done > 0));
    document.getElementById('count').textContent = done + ' of ' + boxes.length + ' lines ticked' + ('unkept' in bar.dataset ? '; this browser does not keep them' : '');
    document.querySelectorAll('[data-row].done').forEach((row) => row.classList.remove('done'));
    for (const b of boxes) if (b.checked) for (const c of chartOf(b.dataset.chart)) for (const r of b.dataset.rows.split(' '))
      if (r) c.querySelectorAll('[data-row="' + r + '"]').forEach((row) => row.classList.add('done'));
  };
  const keep = () => { try { localStorage.setItem(key, JSON.stringify(kept)); } catch { bar.dataset.unkept = ''; } };
  for (const b of boxes) {
    b.checked = kept[b.id] === 1;
    b.addEventListener('change', () => { if (b.checked) kept[b.id] = 1; else delete kept[b.id]; keep(); show(); });
  }
  document.getElementById('clear').addEventListener('click', () => { if (!confirm('Take all ticks away?')) return; kept = {}; boxes.forEach((b) => (b.checked = false)); keep(); show(); });
  bar.hidden = boxes.length === 0;
  show();
})();
`;

/** The page as HTML text. `print` tells versions of the design apart: ticks of one are not shown in another. */
export function webPage(
  design: Design,
  blocks: readonly SheetBlock[],
  charts: readonly Chart[],
  print: string,
): string {
  const making: Making = {
    design,
    charts,
    manner: { ...styleOf(design.settings), inks: PRINT_INKS },
    drawn: 0,
    rows: 0,
  };
  const body = blocks.map((block) => blockHtml(block, making)).join('\n');
  const policy =
    "default-src 'none'; style-src 'unsafe-inline'; script-src 'unsafe-inline'; base-uri 'none'; form-action 'none'";
  return `<!doctype html>
<html lang="en" data-design="${e(`${design.id} ${print}`)}">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="${policy}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${e(design.title)}</title>
<style>${STYLE}</style>
</head>
<body>
<div id="bar" hidden><span id="count" role="status"></span><button type="button" id="clear">Take all ticks away</button></div>
<main>
${body}
</main>
<script>${SCRIPT}</script>
</body>
</html>
`;
}

import type { Chart, Part } from '@cordelina/core';
import { flushSync } from 'react-dom';
import { createRoot } from 'react-dom/client';
import { ChartSvg } from './ChartSvg.js';
import type { Manner } from './paint.js';

/** A chart as a file of its own, as it is printed: lines that stay sharp at any size, or a picture. */

/** The size of a cell on paper, in millimetres. */
const CELL = 5;
const INCH = 25.4;
/** Dots to an inch of a picture, where it does not grow too large by them. */
const DOTS = 300;
/** The longest side of a picture a browser can paint, and the most dots in all. */
const LONGEST = 12_000;
const MOST_DOTS = 60_000_000;

interface Asked {
  chart: Chart;
  manner: Manner;
  label: string;
  part?: Part;
}

/** The chart as SVG, with its size in millimetres. */
function drawn(asked: Asked): SVGSVGElement {
  const place = document.createElement('div');
  const root = createRoot(place);
  flushSync(() => root.render(<ChartSvg {...asked} />));
  const svg = place.querySelector('svg')!.cloneNode(true) as SVGSVGElement;
  root.unmount();
  const [, , width, height] = svg.getAttribute('viewBox')!.split(' ').map(Number) as [
    number,
    number,
    number,
    number,
  ];
  svg.removeAttribute('style');
  svg.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  svg.setAttribute('width', `${width * CELL}mm`);
  svg.setAttribute('height', `${height * CELL}mm`);
  svg.setAttribute('font-family', "'Source Sans 3', 'Segoe UI', sans-serif");
  const title = document.createElementNS('http://www.w3.org/2000/svg', 'title');
  title.textContent = asked.label;
  svg.prepend(title);
  return svg;
}

export function svgOf(asked: Asked): Blob {
  const text = new XMLSerializer().serializeToString(drawn(asked));
  return new Blob([`<?xml version="1.0" encoding="UTF-8"?>\n${text}`], { type: 'image/svg+xml' });
}

/** @returns the picture on white, and its dots to an inch; null where the browser cannot paint it */
export async function pngOf(asked: Asked): Promise<{ file: Blob; dots: number } | null> {
  const svg = drawn(asked);
  const [width, height] = ['width', 'height'].map((name) => parseFloat(svg.getAttribute(name)!) / INCH) as [
    number,
    number,
  ];
  const dots = Math.min(DOTS, LONGEST / Math.max(width, height), Math.sqrt(MOST_DOTS / (width * height)));
  const [across, down] = [Math.round(width * dots), Math.round(height * dots)];
  svg.setAttribute('width', `${across}`);
  svg.setAttribute('height', `${down}`);
  const image = new Image();
  image.src = `data:image/svg+xml,${encodeURIComponent(new XMLSerializer().serializeToString(svg))}`;
  const canvas = document.createElement('canvas');
  canvas.width = across;
  canvas.height = down;
  const paint = canvas.getContext('2d');
  try {
    await image.decode();
  } catch {
    return null;
  }
  if (!paint) return null;
  paint.fillStyle = '#fff';
  paint.fillRect(0, 0, across, down);
  paint.drawImage(image, 0, 0, across, down);
  const file = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
  return file && { file, dots: Math.round(dots) };
}

import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url';
import { getDocument, GlobalWorkerOptions, type PDFDocumentProxy } from 'pdfjs-dist';
import { NoPicture } from '../workers/picture-in.js';

/** Pages of a PDF as pictures. What reads PDFs is fetched with this file, when one is opened. */

GlobalWorkerOptions.workerSrc = worker;

/** So many pixels along the longer side of a page: enough for every mark of a dense chart. */
const LONGEST = 3000;
const MOST_PAGES = 500;

/** Opens a PDF. @throws NoPicture where it is none, or is locked */
export async function openPdf(file: Blob): Promise<PDFDocumentProxy> {
  try {
    const data = new Uint8Array(await file.arrayBuffer());
    const opened = await getDocument({ data, isEvalSupported: false, enableXfa: false }).promise;
    if (opened.numPages <= MOST_PAGES) return opened;
    void opened.destroy();
  } catch {
    throw new NoPicture('This PDF cannot be opened: it is spoiled, or locked with a password.');
  }
  throw new NoPicture(`This PDF has more than ${MOST_PAGES} pages: save the page with the chart by itself.`);
}

/** A page, from 1, as a PNG. @throws NoPicture where it cannot be drawn */
export async function pageAsPicture(pdf: PDFDocumentProxy, number: number): Promise<Blob> {
  try {
    const page = await pdf.getPage(number);
    const { width, height } = page.getViewport({ scale: 1 });
    const viewport = page.getViewport({ scale: LONGEST / Math.max(width, height, 1) });
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.round(viewport.width));
    canvas.height = Math.max(1, Math.round(viewport.height));
    await page.render({ canvasContext: canvas.getContext('2d')!, viewport }).promise;
    const made = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
    if (made) return made;
  } catch {
    // Told below.
  }
  throw new NoPicture(`Page ${number} of this PDF cannot be drawn.`);
}

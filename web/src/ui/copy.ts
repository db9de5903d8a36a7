/**
 * Puts a text on the clipboard. On a page that is not served safely, as over plain http in a local network, a browser has none for it:
 * there the text is selected for a moment and copied as by the hand.
 *
 * @returns false where the browser lets the page do neither
 */
export async function copyText(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    return copyByHand(text);
  }
}

function copyByHand(text: string): boolean {
  const had = document.activeElement;
  const place = document.createElement('textarea');
  place.value = text;
  place.style.cssText = 'position:fixed;opacity:0';
  document.body.append(place);
  place.select();
  let done = false;
  try {
    // Long given up as a way to edit, and the only way left here.
    done = document.execCommand('copy');
  } catch {
    // It says so below.
  }
  place.remove();
  if (had instanceof HTMLElement) had.focus({ preventScroll: true });
  return done;
}

/** Puts a picture on the clipboard. @returns false where the browser does not let the page do that */
export async function copyPicture(png: Blob): Promise<boolean> {
  try {
    await navigator.clipboard.write([new ClipboardItem({ 'image/png': png })]);
    return true;
  } catch {
    return false;
  }
}

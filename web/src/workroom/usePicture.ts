import { useEffect, useState, type RefObject } from 'react';
import { takeTurn } from './turns.js';

/** How far from the screen a picture is fetched already; how long after it was not given it is asked for again, and how often. */
const NEARLY_SEEN = '200px';
const ASKED_AGAIN = 15_000;
const MOST_ASKED = 8;

/**
 * The address of a picture once it has come: it is fetched when its place is near the screen and its turn has come. Until another has
 * come the one before stands; null where none has, and missing where it was not given so far.
 *
 * @param src null where there is none to be asked for
 */
export function usePicture(
  place: RefObject<Element | null>,
  src: string | null,
): { picture: string | null; isMissing: boolean } {
  const [picture, setPicture] = useState<string | null>(null);
  const [missing, setMissing] = useState<string | null>(null);
  useEffect(() => {
    if (src === null) return;
    let end = () => {};
    let timer: ReturnType<typeof setTimeout> | undefined;
    const fetchIt = (asked: number) => {
      const image = new Image();
      const giveUpTurn = takeTurn(() => void (image.src = src));
      end = () => {
        image.onload = image.onerror = null;
        image.src = '';
        giveUpTurn();
      };
      image.onload = () => {
        giveUpTurn();
        setPicture(src);
        setMissing(null);
      };
      image.onerror = () => {
        giveUpTurn();
        setMissing(src);
        if (asked < MOST_ASKED) timer = setTimeout(() => fetchIt(asked + 1), ASKED_AGAIN);
      };
    };
    const near = new IntersectionObserver(
      (seen) => {
        if (!seen.some((one) => one.isIntersecting)) return;
        near.disconnect();
        fetchIt(1);
      },
      { rootMargin: NEARLY_SEEN },
    );
    near.observe(place.current!);
    return () => {
      near.disconnect();
      clearTimeout(timer);
      end();
    };
  }, [place, src]);
  return { picture: src === null ? null : picture, isMissing: src !== null && missing === src };
}

/**
 * What a key tells of a stitch in words: the trade has many for each, and one short word may be worked in more than one
 * way (M1 out of the bar, or of the yarn alone). Common practice, no source.
 */

/** A text's words alone, so that the same steps compare however they are set. */
export const bare = (text: string): string =>
  text
    .toLowerCase()
    .replace(/\bstitch(?:es)?\b|\bsts?\b|\bthe\b/g, '')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

const FIGURES: readonly [RegExp, string][] = [
  [/\bone\b/g, '1'],
  [/\btwo\b/g, '2'],
  [/\bthree\b/g, '3'],
  [/\btog\b/g, 'together'],
  [/\bsl\b/g, 'slip'],
  [/\bk ?(\d)\b/g, 'knit $1'],
  [/\bp ?(\d)\b/g, 'purl $1'],
  [/\bk(\d)tog\b/g, 'knit $1 together'],
  [/\bk ?(\d) together\b/g, 'knit $1 together'],
  [/\bp(\d)tog\b/g, 'purl $1 together'],
  [/\bpsso\b/g, 'pass slipped over'],
  [/\btbl\b/g, 'through back loop'],
  [/\b(?:wool|thread|working yarn)\b/g, 'yarn'],
  [/\bas if to knit\b/g, 'knitwise'],
  [/\bas if to purl\b/g, 'purlwise'],
];

const isBar =
  /\b(?:bar|strand|loop between|horizontal|running|yarn (?:that )?(?:lies |lying )?between|loop (?:that )?(?:lies |lying )between)\b/;
const isBehind = /\b(?:back of|back loop|through back|into back|twist\w*)\b/;
const isInFront = /\b(?:front of|front loop|through front|into front)\b/;

/** The steps, each with the word of a row that it tells; the first that fits holds. */
const STEPS: readonly [tells: (steps: string) => boolean, word: string][] = [
  [(t) => /\bbelow\b/.test(t), 'k below'],
  [(t) => /^slip (?:1|next)\b.*knit 2 together.*\bover\b/.test(t), 'sk2p'],
  [(t) => /^slip (?:1|next)\b.*knit (?:1|next)\b.*\bover\b/.test(t), 'skp'],
  [(t) => /^slip 2\b.*knit (?:1|next)\b.*\bover\b/.test(t), 's2kp'],
  [
    (t) => /^slip\b.*\byarn (?:held |kept )?(?:in|to|at) front\b|^with yarn in front.*slip/.test(t),
    'sl 1 wyif',
  ],
  [
    (t) => /^slip\b.*\byarn (?:held |kept )?(?:in|to|at) back\b|^with yarn (?:in|at) back.*slip/.test(t),
    'sl 1 wyib',
  ],
  [(t) => /^slip slip slip knit$|^slip (?:next )?3\b.*knit.*together/.test(t), 'sssk'],
  [(t) => /^slip slip knit$|^slip (?:next )?(?:2|1)\b.*(?:slip.*)?knit.*together/.test(t), 'ssk'],
  [(t) => /^slip slip purl$|^slip (?:next )?2\b.*purl.*together/.test(t), 'ssp'],
  [(t) => /^slip(?: (?:1|next))?(?: purlwise)?$/.test(t), 'sl 1'],
  [(t) => /^slip(?: (?:1|next))? knitwise$/.test(t), 'sl 1 knitwise'],
  [(t) => /^knit (?:next )?2 together(?: through (?:their )?back loops?)$/.test(t), 'k2tog tbl'],
  [(t) => /^knit (?:next )?3 together(?: through (?:their )?back loops?)$/.test(t), 'k3tog tbl'],
  [(t) => /^purl (?:next )?2 together(?: through (?:their )?back loops?)$/.test(t), 'p2tog tbl'],
  [(t) => /^knit (?:next )?2 together\b(?!.*back)/.test(t), 'k2tog'],
  [(t) => /^knit (?:next )?3 together\b(?!.*back)/.test(t), 'k3tog'],
  [(t) => /^purl (?:next )?2 together\b(?!.*back)/.test(t), 'p2tog'],
  [(t) => /^purl (?:next )?3 together\b(?!.*back)/.test(t), 'p3tog'],
  [(t) => /\bknit\w* (?:in ?to |in |through )?(?:of )?front and (?:then )?(?:in ?to )?back\b/.test(t), 'kfb'],
  [(t) => /\bpurl\w* (?:in ?to |in |through )?(?:of )?front and (?:then )?(?:in ?to )?back\b/.test(t), 'pfb'],
  [(t) => isBar.test(t) && /\bpurl/.test(t) && isBehind.test(t), 'M1LP'],
  [(t) => isBar.test(t) && /\bpurl/.test(t) && isInFront.test(t), 'M1RP'],
  [(t) => isBar.test(t) && isBehind.test(t), 'M1L'],
  [(t) => isBar.test(t) && isInFront.test(t), 'M1R'],
  [
    (t) =>
      /\byarn\b/.test(t) &&
      /\b(?:over|forward|round|around|wind\w*|wrap\w*|front)\b/.test(t) &&
      !/\bslip|\bbetween 2\b|\btogether\b/.test(t),
    'yo',
  ],
  [
    (t) =>
      /^knit(?: 1| next)? (?:1 )?through back(?: of)?(?: loops?)?$|^knit(?: 1)? in ?to back(?: of)?(?: loops?)?$/.test(
        t,
      ),
    'k1 tbl',
  ],
  [
    (t) =>
      /^purl(?: 1| next)? (?:1 )?through back(?: of)?(?: loops?)?$|^purl(?: 1)? in ?to back(?: of)?(?: loops?)?$/.test(
        t,
      ),
    'p1 tbl',
  ],
  [(t) => /^knit(?: 1)?$/.test(t), 'k1'],
  [(t) => /^purl(?: 1)?$/.test(t), 'p1'],
];

/** The word of a row that steps told in words stand for; null where they are none that are known here. */
export function wordTold(text: string): string | null {
  const steps = FIGURES.reduce((t, [found, put]) => t.replace(found, put), bare(text))
    .replace(/\s+/g, ' ')
    .trim();
  return STEPS.find(([tells]) => tells(steps))?.[1] ?? null;
}

/** Short words that the trade works in more than one way: what the key says of them holds. */
export const MEANS_MORE =
  /^(?:m1p?|make 1|sl(?:ip)?(?: ?\d+| ?#)?(?: sts?| stitch(?:es)?)?(?: purlwise)?|skpo?|sk2po?|yo|yf|yfwd|yrn|yon|inc|k2tog tbl|kfb|pfb|kb|k1b|pb|p1b)$/i;

/** Words that tell nothing more than the short one does: "make 1 stitch". */
export const SAYS_NO_MORE =
  /^(?:make|increase|inc|decrease|dec|slip|add)(?: a| 1| one| new| knitwise| purlwise)*$/;

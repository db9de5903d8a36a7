/**
 * What of a pattern's text may be left aside. Nothing is by default: a sentence says nothing of the rows where it has no
 * word that rows are told in, or where it is of a kind that is known by what it speaks of, and has no other such word.
 */

/** A piece of a text that is left aside, and what is known where it stands. */
export interface Unclaimed {
  text: string;
  /** Whether it stands on a line by itself. */
  isLine: boolean;
  /** Whether it is the first of the text. */
  isFirst?: boolean;
  /** Whether rows stand before it. */
  isBehindRows: boolean;
  /** Whether rows end at an edge: in the round they do not. */
  hasEdges: boolean;
}

const NUMBER = String.raw`\d+(?:[.,/]\d+)?|[¼½¾]|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|once|twice|thrice`;
const ROW = 'rows?|rounds?|rnds?|flat';
const INFLECTED = '(?:s|es|d|ed|ped|ning|ping|ing)?';
const STITCH = String.raw`[kp](?:\d+|fb|tbl|b)?|(?:knit|purl)(?:s|ted|led|ed|ting|ling|ing|wise|ters?|ter|wear)?|sts?|stitch(?:es)?|yo|yon|yrn|yfwd|yfrn|wyi[bf]|tbl|ss+[kp]|s?k\d?po?|tog|together|psso|m1\w*|[ckpt]r?\d+\w*|mb|bobbles?|cable(?:s|d)?|cross(?:es|ed|ings?)?|twist${INFLECTED}|rib(?:s|bed|bing)?|garter|moss|seed|stocking|stockinette|markers?|pm|sm|slm|cn`;
const DIRECTION = 'left|right|front|back|rs|ws';
const VERB = String.raw`multiples?|(?:work|cast|bind|slip|repeat|join|turn|begin|start|end|omit|lift|pick|drop|skip|miss|hold|pass|decreas|increas|continu|plac|remov|mov|chang|replac|revers|alternat)(?:e|es|s|d|ed|ped|ted|ing|ping|ting|ning)?|bound|co|bo|sl|rep|cont|inc|dec|held|beg|beginning|beginners?|ending|read|odd|even|every|next|last|first`;
/** Every word that rows are told in: numbers, rows, stitches, directions, and what the hands do. */
const LOADED = new RegExp(
  String.raw`(?<![A-Za-z0-9])(?:${NUMBER}|${ROW}|${STITCH}|${DIRECTION}|${VERB})(?![A-Za-z0-9])|\d+`,
  'gi',
);

/** The words of a text that rows are told in. */
const rowWordsIn = (text: string): string[] => text.match(LOADED) ?? [];

/** The word by which a text speaks most plainly of rows: a run of stitches, rows or stitches, or the first such word. */
export function mostTelling(text: string): string {
  const words = rowWordsIn(text);
  const [run, rows] = [/^[kp]\d+$/i, /^(?:rows?|rounds?|rnds?|sts|stitches)$/i];
  return words.find((w) => run.test(w)) ?? words.find((w) => rows.test(w)) ?? words[0] ?? '';
}

interface Kind {
  /** Said of it: "it tells what is needed". */
  why: string;
  /** How it is known. */
  cue: RegExp;
  /** The words of rows that such a sentence has, without saying anything of them. */
  has: RegExp;
  /** What it never has. */
  not?: RegExp;
  /** Where it stands, if that matters. */
  where?: (at: Unclaimed) => boolean;
}

const whole = (pattern: string) => new RegExp(`^(?:${pattern})$`, 'i');
const GARMENT = String.raw`(?:back|front|body|yoke|sleeves?|cuffs?|hand|thumb|mittens?|gloves?|brim|crown|collar|hood|legs?|foot|socks?|hat|scarf|cowl|shawl|cushion|cover|vest|cardigan|sweater|jumper|pullover|blanket|headband|bag|panel|border|edging|strip|strap|swatch|sampler|piece|bolster|legwarmers?|pocket)`;
const PIECE = String.raw`(?:(?:left|right|upper|lower|first|second)\s+)?${GARMENT}`;
const NEEDLES = String.raw`needles?|cable|stitch|markers?|holders?|knitting|cn|round|pointed|row|counter|cast|end|ends`;

/** What abbreviations of the page stand for. */
const SHORT: Record<string, string> = {
  alt: 'alternat\\w*',
  approx: 'approximate\\w*',
  beg: 'begin\\w*',
  bor: '(?:beginning|start) of (?:the )?round',
  'c\\.?n': 'cable needle',
  cc: 'contrast\\w* colou?r',
  cm: 'centimet\\w+',
  co: 'cast on',
  'bo|b/o': 'bind off',
  cont: 'continu\\w*',
  dec: 'decreas\\w*',
  'dpns?|dpn\\(s\\)': 'double[ -]pointed needles?(?:\\(s\\))?',
  est: 'established',
  foll: 'follow\\w*',
  inc: 'increas\\w*',
  k: 'knit',
  'k-?wise': 'knitwise',
  lh: 'left[ -]hand(?: needle)?',
  lhn: 'left[ -]hand needle',
  m: 'marker',
  mc: 'main colou?r',
  p: 'purl',
  'p-?wise': 'purlwise',
  'patt?': 'pattern',
  pm: 'place (?:a )?marker',
  psso: 'pass (?:the )?slip(?:ped)? (?:st|stitch) over',
  rem: 'remain\\w*',
  rep: 'repeat\\w*',
  rh: 'right[ -]hand(?: needle)?',
  rhn: 'right[ -]hand needle',
  'rnds?|rnd\\(s\\)': 'rounds?(?:\\(s\\))?',
  rs: 'right side(?: of (?:the )?(?:work|fabric|piece))?(?: facing)?',
  sl: 'slip',
  's?sm|slm': 'slip (?:the )?marker',
  'st st': '(?:stocking|stockinette) ?(?:st|stitch)',
  'sts?|st\\(s\\)': 'stitch(?:es|\\(es\\))?',
  tbl: '(?:through (?:the )?back (?:of )?(?:the )?loops?|through (?:the )?back of (?:the )?loops?)',
  tog: 'together',
  ws: 'wrong side(?: of (?:the )?(?:work|fabric|piece))?(?: facing)?',
  wyib: 'with (?:the )?yarn in (?:the )?back',
  wyif: 'with (?:the )?yarn in (?:the )?front',
};
const ABBREVIATIONS = new RegExp(
  `^(?:${Object.entries(SHORT)
    .map(([short, long]) => `(?:${short})\\s*(?:[:=–-]|means|is)\\s*(?:${long})`)
    .join('|')})$`,
  'i',
);

const KINDS: readonly Kind[] = [
  { why: 'it tells what the page shortens', cue: ABBREVIATIONS, has: /./ },
  {
    why: 'it tells what is needed',
    cue: /\b(?:yarns?|wool|cotton|linen|silk|balls?|skeins?|hanks?|gram(?:me)?s?|g|oz|ounces?|met(?:re|er)s?|yards?|yds?|needles?|hooks?|markers?|holders?|scissors|buttons?|notions|materials?|dk|worsted|aran|chunky|fingering|\d-ply|mm|u\.?s\.?)\b/i,
    has: whole(String.raw`${NUMBER}|${NEEDLES}|cross(?:ings)?`),
    not: /\b(?:stitch|sts?)\b(?!\s+(?:markers?|holders?))|\brows?\b(?!\s+counter)|\brounds?\b(?!\s+needles?)|\bcast\b|\b(?:increase|decrease)\b|\bcross(?!ings)/i,
  },
  {
    why: 'it is the gauge',
    cue: /\b(?:gauge|tension)\b|\b\d+\s*(?:sts?|stitches)\b.*(?:=|\bto\b|\bper\b|\bover\b|\bmeasure)|\bswatch\b/i,
    has: whole(
      String.raw`${NUMBER}|sts?|stitch(?:es)?|${ROW}|stocking|stockinette|garter|moss|rib|cables?|cabled|needles?|knit(?:ted|ting)?|work(?:ed)?|cross(?:ed|ings)?|begin(?:ning)?|start(?:ing)?|first`,
    ),
    // A gauge is measured over a length; a swatch is only advised.
    not: /\b(?:cast|bind|repeat|rep|join|slip|turn|continue)\b|^(?!.*(?:\d\s*(?:cm|mm|in\b|ins\b|inch|"|”)|\b(?:check|tension|gauge)\b))/i,
  },
  {
    why: 'it gives sizes and measures',
    cue: /\b(?:sizes?|fits?|finished|measure(?:s|ments?)?|chest|bust|hips?|circumference|length|width|wide|long|tall|height|head|foot|depth|deep|around)\b/i,
    has: whole(String.raw`${NUMBER}|back|cabled?|flat`),
    not: /\b(?:until|for \d|to \d)\b/i,
  },
  {
    why: 'it is about care',
    cue: /\b(?:wash(?:ed|ing)?|block(?:ed|ing)?|press(?:ed|ing)?|iron(?:ing)?|dry|dried|soak(?:ed|ing)?|steam(?:ed|ing)?|launder(?:ing)?)\b/i,
    has: whole(
      String.raw`\d+|right|rs|ws|flat|machine|hand|pick\w*|lift\w*|hold|plac\w*|knitting|work|cables?|rib(?:bing)?|turn(?:ed|ing)?`,
    ),
  },
  {
    why: 'it is about finishing',
    cue: /^(?:then\s+|finally,?\s+|next,?\s+)?(?:(?:cast|bind)(?:ing)?[ -]*off|bo\b|fasten|weave|darn|sew|seam|graft|break|cut|finish|leave|make up|making up|join\b.*\bseams?)\b/i,
    has: whole(
      String.raw`cast|bind|bo|sts?|stitch(?:es)?|rib|work|end|ends|ending|join\w*|right|left|rs|ws|row|round|rnd|back|front|knit\w*|purl\w*|last|next|remaining|first|every|cables?|turn\w*|together|held|hold\w*`,
    ),
    not: /\b(?:knit|purl)\b(?!\s*wise)|\bnext\s+(?!row|round|rnd)|\b(?:last|first)\s+(?!row|round|rnd|stitch)/i,
    where: ({ isBehindRows }) => isBehindRows,
  },
  {
    why: 'it is about finishing',
    cue: /^(?:cast|bind)[ -]*off\s+(?:all\s+|the\s+|rem(?:aining)?\.?\s+)*\d+\s+(?:sts|stitches)\b[^\d]*$/i,
    has: whole(String.raw`cast|bind|\d+|sts|stitches|knitwise|purlwise|rib`),
    where: ({ isBehindRows }) => isBehindRows,
  },
  {
    why: 'it belongs to the page',
    cue: /^(?:https?:\/\/|www\.)\S+$|^\S+@\S+\.\S+$/i,
    has: /./,
  },
  {
    why: 'it belongs to the page',
    cue: /^\W*$|^(?:page\s+)?\d+(?:\s*(?:of|\/)\s*\d+)?$|^page\b|©|\bcopyright\b|\ball rights reserved\b|\bwww\.|https?:|^continued\b|\b(?:published|printed|edition|version|leaflet|pattern no|design no|photograph\w*|drawn by|designed by|design by|written by|edited by)\b/i,
    has: whole(String.raw`\d+|continued|next|first|last`),
    not: /\bcontinued?\s+(?!on|from|over|overleaf)/i,
  },
  {
    why: 'it belongs to the page',
    cue: /^(?:rows?|rounds?|rnds?|no\.?|#)?\s*[:|–-]*\s*(?:sides?\s*[:|–-]*\s*)?(?:instructions?|directions?|pattern|what to do|words|abbreviations?|meanings?|abbreviation\s*:?\s*meaning)(?:\s*[:|–-]*\s*(?:sts|stitches|counts?))?\s*:?$/i,
    has: whole('rows?|rounds?|rnds?|sts|stitches'),
    where: ({ isLine }) => isLine,
  },
  {
    why: 'it belongs to the page',
    cue: /^\[?(?:chart of .*: \d+ columns, rows \d+ to \d+|.*: a (?:picture|drawing), not in this .*)$/i,
    has: /./,
  },
  {
    why: 'it belongs to the page',
    cue: /^(?:the )?(?:rows|rounds|words)$/i,
    has: /./,
    where: ({ isLine }) => isLine,
  },
  {
    why: 'it marks a side of the work',
    cue: /^mark (?:the |this )?(?:right|wrong) side(?: of (?:the )?work)?(?: with .*)?$/i,
    has: /./,
  },
  {
    why: 'it says how many are made',
    cue: /^\(?(?:make|knit)\s+(?:two|2|one|1|both|four|4)(?:\s+(?:alike|the same|pieces|of these))?\)?$/i,
    has: /./,
  },
  {
    why: 'it is a title',
    cue: whole(
      String.raw`(?:for\s+)?(?:the\s+|each\s+|one\s+|both\s+)?${PIECE}(?:\s*\(?\s*(?:make|knit)\s+(?:two|2|one|1)\s*\)?)?`,
    ),
    has: /./,
  },
  {
    why: 'it is a title',
    cue: new RegExp(
      String.raw`\b(?:pattern|chart|${GARMENT}|rope|plait|braid|cable|cables|lattice|diamonds?|honeycomb|basket\w*|wave|stitch|rib|motif|repeat|instructions|directions|method|notes?|abbreviations)\b`,
      'i',
    ),
    has: whole(
      String.raw`cables?|cabled|stitch|knit(?:ted|ting)?|rib(?:bed)?|twist(?:ed)?|cross(?:ed|ing)?|moss|garter|seed|bobbles?|left|right|back|front|flat`,
    ),
    not: /\d|[.;]\s*\S|^(?:knit|purl|work|twist|cross|rib)\s+(?:the|all|a|to|every|each)\b|^\W*(?:knit|purl|cross|twist)\s+(?:back|front|rib|left|right|flat|stitch)\b|(?:\S+\s+){9}/i,
    where: ({ isLine }) => isLine,
  },
  {
    why: 'it is a title',
    cue: /^[^.:;*\d]+$/,
    has: whole(
      'two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|cables?|left|right|last|first|next|every',
    ),
    where: ({ isLine, isFirst }) => isLine && isFirst === true,
  },
  {
    why: 'it says what it looks like',
    cue: /^(?:an?|the|two|three|four)\s+(?:[a-z-]+\s+){0,3}(?:ropes?|plaits?|braids?|cables?|diamonds?|lattice|honeycomb|panels?|columns?|waves?|knots?|scarf|hat|cowl|swatch|sampler)\b/i,
    has: whole(
      String.raw`two|three|four|cables?|cabled|knitted|ribbed|twisted|crossed|moss|garter|stitch|rib`,
    ),
    not: /\b(?:is|are|be|each|all|every|on|over|then|st|sts)\b/i,
  },
  {
    why: 'it is said for the pleasure of it',
    cue: /\b(?:this|it|its|you|your|we|our|i|my|is|are|was|were|has|have|can|will|they|their|these|happy|enjoy|have fun|for beginners?|grandmother|named|inspired)\b/i,
    has: whole(
      String.raw`knit(?:s|ting|ted|ters?|wear)?|cables?|cabled|twists?|stitch(?:es)?|first|next|every|beginners?|start(?:ing|ed)?|begin(?:ning)?|work(?:ing)?|read`,
    ),
    not: /^(?:then|now|and|but|note:?\s*)?\s*(?:knit|purl|work|cable|twist|start|begin|read|stitch|cross|when|if|in|on|for|at|after|before)\b|\b(?:worked|knitted|crossed|twisted|repeated)\b|\b(?:must|should|always|never|instead|not|all|each|except)\b|\b(?:stitch(?:es)?|row|cables?)\s+(?:is|are)\b|\b(?:pattern|first)\s+(?:stitch|row)|\b(?:every|next)\s+(?:stitch|row|cable)/i,
  },
  {
    why: 'it says that markers are slipped',
    cue: /^slip(?:ping)?\s+(?:the\s+|all\s+)?markers?\s+(?:as|when)\s+(?:you\s+(?:come to|reach|get to|meet)|they\s+(?:come|appear|are reached))(?:\s+them)?(?:\s+(?:to them|throughout))?$/i,
    has: /./,
  },
  {
    why: 'it belongs to the cast-on',
    cue: whole(
      String.raw`(?:to\s+)?(?:begin|start)(?:\s+by|\s+with)?|loosely|(?:and\s+)?(?:begin|start)\s+(?:the\s+)?(?:pattern|chart|cable pattern)(?:\s+as follows)?|(?:and\s+)?(?:then\s+)?(?:work|knit|continue)\s+(?:in pattern\s+)?as follows`,
    ),
    has: /./,
  },
  {
    why: 'it belongs to the cast-on',
    cue: /^(?:using|by|with)\b.*\b(?:method|cast[ -]?on|yarn|needles?|wool|mc|cc|colou?r\w*)\b/i,
    has: whole(
      String.raw`cast|long|tail|cables?|knitted|provisional|needles?|\d+(?:\.\d+)?|end|ends|held|together|two|twist(?:ed)?`,
    ),
  },
  {
    why: 'it says that the rows follow',
    cue: /^(?:now\s+|then\s+)?(?:work|knit|continue|proceed|begin|start)(?:\s+(?:in|the|with))?(?:\s+(?:cable|rope|stitch))?\s*(?:pattern|patt|rows)?\s*,?\s*(?:as follows|as given below|thus|as below|in the following way)\s*:?$/i,
    has: /./,
  },
  {
    why: 'it says that rows are counted or told',
    cue: /^(?:(?:all\s+)?odd[- ](?:numbered\s+)?rows are (?:right|wrong)[- ]side rows|rs rows are (?:odd|even)|read (?:the\s+)?(?:whole|entire|all of the)?\s*pattern (?:through\s+)?(?:before|first)\b[^\d]*)$/i,
    has: /./,
  },
];

const OTHER_CASE = {
  round:
    /^if\s+(?:you\s+)?(?:are\s+|prefer\s+to\s+|wish\s+to\s+|want\s+to\s+|it is\s+)?(?:work(?:ing|ed)?|knit(?:ting|ted)?)\s+(?:it\s+|this\s+)?in the round\b/i,
  flat: /^if\s+(?:you\s+)?(?:are\s+|prefer\s+to\s+|wish\s+to\s+|want\s+to\s+|it is\s+)?(?:work(?:ing|ed)?|knit(?:ting|ted)?)\s+(?:it\s+|this\s+)?(?:flat|back and forth|in rows)\b/i,
};

/** Why a piece of a text says nothing of the rows; null where it may say something. */
export function harmless(at: Unclaimed): string | null {
  const text = at.text
    .trim()
    .replace(/^[\s("'*•–-]+|[\s)"'.!;:,*–-]+$/g, '')
    .replace(/\s+/g, ' ');
  const words = rowWordsIn(text);
  if (!words.length) return 'it says nothing of the rows';
  if (OTHER_CASE.round.test(text)) return at.hasEdges ? 'it is said for work in the round' : null;
  if (OTHER_CASE.flat.test(text)) return at.hasEdges ? null : 'it is said for flat work';
  const kind = KINDS.find(
    ({ cue, has, not, where }) =>
      cue.test(text) && !not?.test(text) && (where?.(at) ?? true) && words.every((word) => has.test(word)),
  );
  return kind?.why ?? null;
}

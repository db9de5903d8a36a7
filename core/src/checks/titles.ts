import type { Finding } from './finding.js';

/** What each check is called where its findings stand together. */
const TITLES: Record<string, string> = {
  'row-short': 'Rows too short',
  'row-long': 'Rows too long',
  'crossing-over-edge': 'Crossing over the edge',
  'count-law': 'Stitches that do not come out',
  'repeat-count': 'Repeat wins or loses stitches',
  'crossing-over-repeat-line': 'Across the repeat line',
  'nothing-to-work-into': 'Nothing to work into',
  'odd-row-repeat': 'Odd repeat of rows',
  'needle-at-repeat': 'Repeat ends unlike it begins',
  'end-of-pass': 'End of the last pass',
  'round-start': 'Start of the round',
  'same-name': 'Two crossings of one name',
  'no-mirror-image': 'No mirror image',
  'more-findings': 'More findings',
  'rope-purled': 'Rope purled',
  'rope-split': 'Rope split',
  'ground-over-rope': 'Ground over its rope',
  'over-under-broken': 'Over-under broken',
  'over-under-cannot': 'Cannot go over and under',
  'mirror-broken': 'Mirror broken',
  'irregular-rhythm': 'Irregular rhythm',
  'crossed-again': 'Crossed again too soon',
  'narrow-gutter': 'Ropes too close',
  'odd-ribbed-group': 'Odd ribbed group',
  'wide-crossing': 'Wide crossing',
  'wrong-side-crossing': 'Crossing on the wrong side',
  'crossing-at-edge': 'Crossing at the edge',
  'long-float': 'Long float',
  'long-slip': 'Slipped for long',
  'ground-changes-face': 'Ground changes its face',
  'multiple-changes': 'Multiple changes',
  'repeat-longer-than-true': 'Repeat longer than the true one',
  'repeat-once': 'Repeat worked once',
  'dense-cloth': 'Dense cloth',
};

/** What a check is called: of one that has no title, its id in plain words. */
export const checkTitle = (id: string): string => TITLES[id] ?? id.replaceAll('-', ' ');

/** Findings of one check, which stand together. */
export interface FindingGroup {
  id: string;
  level: Finding['level'];
  title: string;
  findings: readonly Finding[];
}

/** Findings by the check that found them, in the order they first come. */
export function grouped(findings: readonly Finding[]): FindingGroup[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) groups.set(finding.id, [...(groups.get(finding.id) ?? []), finding]);
  return [...groups].map(([id, own]) => ({ id, level: own[0]!.level, title: checkTitle(id), findings: own }));
}

/** Findings as text for the editor: what is to be seen to, and then what is meant so and why. */
export function findingsText(title: string, findings: readonly Finding[]): string {
  const lines = (some: readonly Finding[]) =>
    grouped(some).flatMap((group) => [
      '',
      `${group.title} (${group.level})`,
      ...group.findings.map(
        ({ message, meant }) => `- ${message}${meant === undefined ? '' : ` Meant: ${meant}`}`,
      ),
    ]);
  const open = findings.filter((f) => f.meant === undefined);
  const meant = findings.filter((f) => f.meant !== undefined);
  return [
    `${title}: ${open.length === 1 ? '1 finding' : `${open.length || 'no'} findings`}`,
    ...lines(open),
    ...(meant.length ? ['', 'Meant so:', ...lines(meant)] : []),
    '',
  ].join('\n');
}

import { checkTitle, type Finding } from './index.js';

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

import { checkTitle, crossingOf, type Chart, type Crossing, type Finding } from '@cordelina/core';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { PopSheet } from '../ui/Pop.js';
import { Field, Input } from '../ui/Field.js';

/** What is accepted: this place, wherever this crossing stands, or all that the check finds; and why. */
export interface Acceptance {
  of: 'place' | 'crossing' | 'design';
  reason: string;
}

const QUIET = 'rounded-sm px-1.5 py-0.5 text-[13px] text-slate hover:bg-wash hover:text-peat';

/** Accepts a finding with a reason, which the editor sees and nobody prints; or takes that back. */
export function MeantButton({
  finding,
  chart,
  onAccept,
  onTakeBack,
}: {
  finding: Finding;
  chart: Chart;
  onAccept: (finding: Finding, acceptance: Acceptance) => void;
  onTakeBack: (finding: Finding) => void;
}) {
  const [open, setOpen] = useState(false);
  if (finding.meant !== undefined)
    return (
      <button type="button" className={QUIET} onClick={() => onTakeBack(finding)}>
        Not meant after all
      </button>
    );
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className={QUIET}>It is meant so …</Popover.Trigger>
      <PopSheet label={`${checkTitle(finding.id)}: it is meant so`} side="left" className="w-[300px]">
        <Form
          finding={finding}
          crossing={crossingOf(finding, chart)}
          onSay={(acceptance) => {
            setOpen(false);
            onAccept(finding, acceptance);
          }}
        />
      </PopSheet>
    </Popover.Root>
  );
}

function Form({
  finding,
  crossing,
  onSay,
}: {
  finding: Finding;
  crossing: Crossing | null;
  onSay: (acceptance: Acceptance) => void;
}) {
  const hasPlace = finding.row !== undefined;
  const [of, setOf] = useState<Acceptance['of']>(hasPlace ? 'place' : 'design');
  const [reason, setReason] = useState('');
  const [tried, setTried] = useState(false);
  const said = reason.trim();
  const scopes: [Acceptance['of'], string][] = [
    ...(hasPlace ? ([['place', 'here']] as [Acceptance['of'], string][]) : []),
    ...(crossing ? ([['crossing', 'wherever this crossing stands']] as [Acceptance['of'], string][]) : []),
    ['design', 'throughout the design'],
  ];
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        setTried(true);
        if (said) onSay({ of, reason: said });
      }}
    >
      <Field
        label="Why it is meant so"
        hint="Kept with the design for the editor; never printed."
        error={tried && !said ? 'Say in a few words why.' : undefined}
      >
        {(props) => (
          <Input
            {...props}
            autoFocus
            maxLength={300}
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
        )}
      </Field>
      <fieldset className="grid gap-1 text-[14px]">
        <legend className="mb-0.5 text-[13px] text-slate">It holds</legend>
        {scopes.map(([value, label]) => (
          <label key={value} className="flex items-center gap-2">
            <input type="radio" name="of" checked={of === value} onChange={() => setOf(value)} />
            {label}
          </label>
        ))}
      </fieldset>
      <Button tone="main" type="submit" className="justify-self-end">
        Accept it
      </Button>
    </form>
  );
}

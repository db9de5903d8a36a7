import { useState } from 'react';
import { Button } from './Button.js';
import { Field, Input } from './Field.js';
import { SheetDialog } from './Sheet.js';

/** Asks for a name. Without `missing`, a sentence about its lack, it may be left empty. */
export function NameDialog({
  title,
  action,
  label,
  hint,
  initial,
  most,
  missing,
  onClose,
  onName,
}: {
  title: string;
  /** What the button that gives the name says. */
  action: string;
  label: string;
  hint?: string;
  initial: string;
  /** The most characters it may have. */
  most: number;
  missing?: string;
  onClose: () => void;
  onName: (name: string) => void;
}) {
  const [name, setName] = useState(initial);
  const said = name.trim();
  const lacks = said ? undefined : missing;
  return (
    <SheetDialog open onOpenChange={onClose} title={title}>
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          if (lacks) return;
          onName(said);
          onClose();
        }}
      >
        <Field label={label} hint={hint} error={lacks}>
          {(props) => (
            <Input
              {...props}
              autoFocus
              maxLength={most}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button tone="main" type="submit" disabled={lacks !== undefined}>
            {action}
          </Button>
        </div>
      </form>
    </SheetDialog>
  );
}

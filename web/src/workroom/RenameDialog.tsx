import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { SheetDialog } from '../ui/Sheet.js';

export function RenameDialog({
  title,
  onClose,
  onRename,
}: {
  title: string;
  onClose: () => void;
  onRename: (title: string) => void;
}) {
  const [name, setName] = useState(title);
  const said = name.trim();
  return (
    <SheetDialog open onOpenChange={onClose} title="Rename">
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          if (!said) return;
          onRename(said);
          onClose();
        }}
      >
        <Field label="Title" error={said ? undefined : 'A design needs a title.'}>
          {(props) => (
            <Input
              {...props}
              autoFocus
              maxLength={120}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button tone="main" type="submit" disabled={!said}>
            Rename
          </Button>
        </div>
      </form>
    </SheetDialog>
  );
}

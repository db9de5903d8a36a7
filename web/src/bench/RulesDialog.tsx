import {
  CUSTOMS,
  RulesSchema,
  setPart,
  type Chart,
  type CustomName,
  type Rules,
  type Settings,
  numberTyped,
} from '@cordelina/core';
import { useForm } from 'react-hook-form';
import { edit, editHead } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { Choose, Field, Input } from '../ui/Field.js';
import { SheetDialog } from '../ui/Sheet.js';

const NAMES = Object.keys(CUSTOMS) as CustomName[];
type Form = Record<CustomName, string>;

const formOf = (rules: Rules): Form =>
  Object.fromEntries(NAMES.map((name) => [name, String(rules[name])])) as Form;

/** Where the checks draw the lines that are custom and no law, and whether the chart's edges are the piece's. */
export function RulesDialog({
  chart,
  settings,
  open,
  onOpenChange,
}: {
  chart: Chart;
  settings: Settings;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  return (
    <SheetDialog
      open={open}
      onOpenChange={onOpenChange}
      title="Where the checks draw the line"
      note="Laws of counting cannot be moved. These are customs: yours may differ."
      wide
    >
      {open && <RulesForm chart={chart} settings={settings} onDone={() => onOpenChange(false)} />}
    </SheetDialog>
  );
}

function RulesForm({ chart, settings, onDone }: { chart: Chart; settings: Settings; onDone: () => void }) {
  const dispatch = useAppDispatch();
  const { register, handleSubmit, setError, setValue, formState } = useForm<Form>({
    defaultValues: formOf(settings.rules),
  });
  const submit = (form: Form) => {
    const said = RulesSchema.safeParse(
      Object.fromEntries(NAMES.map((name) => [name, numberTyped(form[name])])),
    );
    if (said.success) {
      dispatch(editHead('lines of custom', { settings: { ...settings, rules: said.data } }));
      return onDone();
    }
    for (const { path } of said.error.issues) {
      const name = path[0] as CustomName;
      const { least, most } = CUSTOMS[name];
      setError(name, { message: `A whole number from ${least} to ${most}.` });
    }
  };
  return (
    <form noValidate className="grid gap-5" onSubmit={(e) => void handleSubmit(submit)(e)}>
      <Choose
        label="This chart is"
        value={chart.part}
        hint="The edges of a panel are not the piece’s: no edge stitch is asked for."
        options={[
          ['piece', 'a whole piece'],
          ['panel', 'a panel that stands in a larger piece'],
        ]}
        onChange={(part) => dispatch(edit('panel or piece', (c) => setPart(c, part)))}
      />
      <div className="grid grid-cols-2 gap-x-6 gap-y-4">
        {NAMES.map((name) => (
          <Field
            key={name}
            label={CUSTOMS[name].label}
            hint={`${CUSTOMS[name].custom} Usual: ${CUSTOMS[name].usual}.`}
            error={formState.errors[name]?.message}
          >
            {(props) => <Input {...props} inputMode="numeric" {...register(name)} />}
          </Field>
        ))}
      </div>
      <div className="flex justify-end gap-2">
        <Button
          className="mr-auto"
          onClick={() => NAMES.forEach((name) => setValue(name, String(CUSTOMS[name].usual)))}
        >
          As is usual
        </Button>
        <Button onClick={onDone}>Cancel</Button>
        <Button tone="main" type="submit">
          Set
        </Button>
      </div>
    </form>
  );
}

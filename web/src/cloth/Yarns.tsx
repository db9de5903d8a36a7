import { YARN_NAMES, YARNS, type YarnName } from '@cordelina/core';

const css = ([r, g, b]: readonly [number, number, number]) => `rgb(${r} ${g} ${b})`;

/** The yarns of the store; the cloth is shown in the one that is chosen. */
export function Yarns({
  name: group,
  label,
  yarn,
  onChange,
}: {
  name: string;
  label: string;
  yarn: YarnName;
  onChange: (yarn: YarnName) => void;
}) {
  return (
    <fieldset className="mt-1.5 grid grid-cols-2 gap-x-2 gap-y-1">
      <legend className={label.startsWith('Yarn of') ? 'sr-only' : 'mb-1 text-[13.5px] text-slate'}>
        {label}
      </legend>
      {YARN_NAMES.map((name) => {
        const { colour, fleck, flecked, name: called } = YARNS[name];
        return (
          <label
            key={name}
            className="flex cursor-pointer items-center gap-2 rounded-sm border border-transparent px-1 py-0.5 text-[13.5px] hover:bg-wash has-checked:border-peat has-checked:bg-wash"
          >
            <input
              type="radio"
              name={group}
              className="sr-only"
              checked={yarn === name}
              onChange={() => onChange(name)}
            />
            <span
              aria-hidden
              className="h-4 w-4 shrink-0 rounded-full border border-slate/40"
              style={{
                background: flecked
                  ? `repeating-linear-gradient(115deg, ${css(colour)} 0 3px, ${css(fleck)} 3px 4px)`
                  : css(colour),
              }}
            />
            <span className="truncate">{called}</span>
          </label>
        );
      })}
    </fieldset>
  );
}

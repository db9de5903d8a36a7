const UNITS = ['cm', 'in'] as const;
type Unit = (typeof UNITS)[number];

/** In which unit lengths are told. */
export function UnitSwitch({ unit, onChange }: { unit: Unit; onChange: (unit: Unit) => void }) {
  return (
    <fieldset className="flex items-center gap-2 text-[14px]">
      <legend className="sr-only">Unit of lengths</legend>
      {UNITS.map((u) => (
        <label key={u} className="flex items-center gap-1">
          <input type="radio" name="unit" checked={unit === u} onChange={() => onChange(u)} />
          {u}
        </label>
      ))}
    </fieldset>
  );
}

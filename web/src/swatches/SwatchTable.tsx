import { needleSize, YARN_WEIGHTS } from '@cordelina/core';
import {
  columnFilteringFeature,
  createColumnHelper,
  createFilteredRowModel,
  createSortedRowModel,
  filterFn_equals,
  filterFn_includesString,
  globalFilteringFeature,
  rowSortingFeature,
  sortFn_basic,
  sortFn_text,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp, Camera } from 'lucide-react';
import { useMemo, useRef, type KeyboardEvent } from 'react';
import { Choose, Input } from '../ui/Field.js';
import { OVER_TEXT, percent, type SwatchFacts, type Unit } from './swatch-facts.js';

const features = tableFeatures({
  columnFilteringFeature,
  globalFilteringFeature,
  rowSortingFeature,
  filteredRowModel: createFilteredRowModel(),
  sortedRowModel: createSortedRowModel(),
  filterFns: { includesString: filterFn_includesString, equals: filterFn_equals },
  sortFns: { text: sortFn_text, basic: sortFn_basic },
});

const helper = createColumnHelper<typeof features, SwatchFacts>();

/** A number in a column: the same digits for all, none where it was not measured. */
const figure = (n: number | undefined, digits: number): string => (n === undefined ? '–' : n.toFixed(digits));

const columnsIn = (unit: Unit) =>
  helper.columns([
    helper.accessor(({ swatch }) => swatch.name, { id: 'name', header: 'Swatch', sortFn: 'text' }),
    helper.accessor('design', { header: 'Design', sortFn: 'text' }),
    helper.accessor(({ swatch }) => swatch.cloth, { id: 'cloth', header: 'Cloth', filterFn: 'equals' }),
    helper.accessor(({ swatch }) => swatch.needle ?? undefined, {
      id: 'needle',
      header: 'Needle',
      filterFn: 'equals',
      sortUndefined: 'last',
      cell: ({ getValue }) => {
        const mm = getValue();
        if (mm === undefined) return '–';
        const us = needleSize(mm)?.us;
        return (
          <span className="whitespace-nowrap">
            {mm} mm{us && <span className="text-slate"> US {us}</span>}
          </span>
        );
      },
    }),
    helper.accessor(({ swatch }) => `${swatch.yarn} ${swatch.fibre}`.trim(), {
      id: 'yarn',
      header: 'Yarn',
      sortFn: 'text',
      cell: ({ row }) => {
        const { yarn, weight } = row.original.swatch;
        return (
          <>
            {yarn || '–'}
            {weight !== null && <span className="text-slate"> {YARN_WEIGHTS[weight]!.name}</span>}
          </>
        );
      },
    }),
    helper.accessor('stitches', {
      header: `Sts in ${OVER_TEXT[unit]}`,
      sortUndefined: 'last',
      cell: ({ getValue, row }) => (
        <>
          {figure(getValue(), 1)}
          {getValue() !== undefined && !row.original.isWashed && <span title="not washed yet"> *</span>}
        </>
      ),
    }),
    helper.accessor('rows', {
      header: `Rows in ${OVER_TEXT[unit]}`,
      sortUndefined: 'last',
      cell: ({ getValue }) => figure(getValue(), 1),
    }),
    helper.accessor('wider', {
      header: 'In the wash',
      sortUndefined: 'last',
      cell: ({ row }) => {
        const { wider, longer } = row.original;
        return wider === undefined && longer === undefined
          ? '–'
          : [wider, longer].map((n) => (n === undefined ? '–' : percent(n, true))).join(' × ');
      },
    }),
    helper.accessor('drawIn', {
      header: 'Draw-in',
      sortUndefined: 'last',
      cell: ({ getValue }) => (getValue() === undefined ? '–' : percent(getValue()!)),
    }),
    helper.accessor('gramsPerLoop', {
      header: 'g in 1000 loops',
      sortUndefined: 'last',
      cell: ({ getValue }) => figure(getValue() === undefined ? undefined : getValue()! * 1000, 1),
    }),
  ]);

const NUMBERS = new Set(['stitches', 'rows', 'wider', 'drawIn', 'gramsPerLoop']);

/** All swatches: sorted by what is pressed, narrowed by what is typed; one is chosen, and up and down go through them. */
export function SwatchTable({
  facts,
  unit,
  chosen,
  opensAtOnce,
  onChoose,
  onEnter,
}: {
  facts: readonly SwatchFacts[];
  unit: Unit;
  chosen: string | null;
  /** Whether a row that is pressed is opened: where there is no room for it beside the table. */
  opensAtOnce: boolean;
  onChoose: (id: string) => void;
  onEnter: () => void;
}) {
  const columns = useMemo(() => columnsIn(unit), [unit]);
  const table = useTable({
    features,
    columns,
    data: facts,
    getRowId: ({ swatch }) => swatch.id,
    globalFilterFn: 'includesString',
    getColumnCanGlobalFilter: ({ id }) => ['name', 'design', 'yarn', 'cloth'].includes(id),
  });
  const body = useRef<HTMLTableSectionElement>(null);
  const { rows } = table.getRowModel();
  const needles = [...new Set(facts.flatMap(({ swatch }) => swatch.needle ?? []))].sort((a, b) => a - b);
  const filterOf = (id: string) => (table.getColumn(id)?.getFilterValue() ?? '') as string | number;
  const narrow = (id: string, to: string | number) => table.getColumn(id)?.setFilterValue(to || undefined);

  const go = (e: KeyboardEvent, i: number) => {
    const to = { ArrowDown: i + 1, ArrowUp: i - 1, Home: 0, End: rows.length - 1 }[e.key];
    if (e.key === 'Enter') onEnter();
    else if (to === undefined) return;
    else if (rows[to]) {
      onChoose(rows[to].id);
      body.current?.querySelectorAll<HTMLElement>('tr')[to]?.focus();
    }
    e.preventDefault();
  };
  // One row is in the tab order: the chosen one, or the first where that is not shown.
  const stop = Math.max(
    0,
    rows.findIndex(({ id }) => id === chosen),
  );

  return (
    <>
      <div className="flex flex-wrap items-end gap-3">
        <label className="grid gap-1 text-[13px] text-slate">
          Find
          <Input
            type="search"
            className="w-52 text-peat"
            placeholder="Name, design, yarn"
            value={String(table.state.globalFilter ?? '')}
            onChange={(e) => table.setGlobalFilter(e.target.value)}
          />
        </label>
        <Choose
          label="Cloth"
          value={filterOf('cloth')}
          onChange={(to) => narrow('cloth', to)}
          options={[
            ['', 'All'],
            ['cabled', 'Cabled'],
            ['plain', 'Plain'],
          ]}
        />
        <Choose
          label="Needle"
          value={filterOf('needle')}
          onChange={(to) => narrow('needle', to)}
          options={[['', 'All'], ...needles.map((mm) => [mm, `${mm} mm`] as const)]}
        />
        <p className="ml-auto pb-1.5 text-[13.5px] text-slate" role="status">
          {rows.length === facts.length
            ? `${facts.length} ${facts.length === 1 ? 'swatch' : 'swatches'}`
            : `${rows.length} of ${facts.length} swatches`}
        </p>
      </div>
      <div className="mt-3 overflow-x-auto border-y border-rule bg-chalk" tabIndex={-1}>
        <table className="w-full border-collapse text-[14px]" aria-label="Swatches">
          <thead>
            {table.getHeaderGroups().map((group) => (
              <tr key={group.id} className="border-b border-slate/80">
                {group.headers.map((header) => {
                  const sorted = header.column.getIsSorted();
                  return (
                    <th
                      key={header.id}
                      scope="col"
                      aria-sort={sorted ? (sorted === 'asc' ? 'ascending' : 'descending') : 'none'}
                      className={`p-0 font-normal ${NUMBERS.has(header.column.id) ? 'text-right' : 'text-left'}`}
                    >
                      <button
                        type="button"
                        onClick={header.column.getToggleSortingHandler()}
                        className={`flex w-full items-end gap-1 px-2 py-1.5 text-[13px] leading-tight text-slate hover:text-peat ${NUMBERS.has(header.column.id) ? 'justify-end text-right' : 'text-left'}`}
                      >
                        <table.FlexRender header={header} />
                        {sorted === 'asc' && <ArrowUp size={13} aria-hidden />}
                        {sorted === 'desc' && <ArrowDown size={13} aria-hidden />}
                      </button>
                    </th>
                  );
                })}
              </tr>
            ))}
          </thead>
          <tbody ref={body}>
            {rows.map((row, i) => (
              <tr
                key={row.id}
                tabIndex={i === stop ? 0 : -1}
                aria-selected={row.id === chosen}
                onFocus={() => row.id !== chosen && onChoose(row.id)}
                onClick={() => {
                  onChoose(row.id);
                  if (opensAtOnce) onEnter();
                }}
                onKeyDown={(e) => go(e, i)}
                className="cursor-default border-b border-rule last:border-b-0 hover:bg-wash/60 aria-selected:bg-wash aria-selected:shadow-[inset_3px_0_0_var(--peat)]"
              >
                {row.getAllCells().map((cell) => (
                  <td
                    key={cell.id}
                    className={`h-9 px-2 ${NUMBERS.has(cell.column.id) ? 'text-right tabular-nums whitespace-nowrap' : ''} ${cell.column.id === 'name' ? 'font-serif text-[16px]' : ''}`}
                  >
                    <table.FlexRender cell={cell} />
                    {cell.column.id === 'name' && row.original.kept.photoAt && (
                      <Camera size={13} className="ml-1.5 inline text-slate" aria-label="has a photo" />
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        {!rows.length && <p className="px-3 py-4 text-slate">No swatch is like that.</p>}
      </div>
      {facts.some(({ stitches, isWashed }) => stitches !== undefined && !isWashed) && (
        <p className="mt-1.5 text-[13px] text-slate">* as it came off the needle: not washed yet.</p>
      )}
    </>
  );
}

import { DataGrid, type GridColDef, type GridColumnVisibilityModel } from '@mui/x-data-grid';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { columns as known } from '#core/catalogue/index.ts';
import type { NumberColumn, TableQuery, TableRow } from '#work/answer/table.ts';
import { words } from '../../messages/index.ts';
import { pageNonce } from '../../ui/base/nonce.ts';
import { day } from '../../ui/base/format.ts';
import { useTemperatureUnit, useZone } from '../../ui/people/usePerson.ts';
import { leanPress, sayPress } from '../../ui/vinyls/sayPress.ts';

const KEY = 'versipel.table-columns';
/** What is shown before somebody chose: what a crafter asks first. */
const first = new Set(['brand', 'name', 'type', 'colours', 'mat', 'used']);
const startWith: GridColumnVisibilityModel = Object.fromEntries(known.map((c) => [c.key, first.has(c.key)]));
const widths: Record<string, number> = { name: 200, colours: 220, sizes: 260, note: 260 };
const numberWidths: Record<string, number> = { 'on.blade': 140, standing: 120, chance: 110, last_cut: 180 };
/** Sorted on the server, where there is an index for it. */
const sortKeys: Record<string, TableQuery['sort']> = { name: 'name', type: 'type', used: 'used' };

function kept(): GridColumnVisibilityModel {
  try {
    return { ...startWith, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as GridColumnVisibilityModel) };
  } catch {
    return startWith;
  }
}

/** What is known of vinyls, and after the name what to set on the cutter on the bench, since that is what is looked for. */
function columnsOf(numbers: readonly NumberColumn[], zone: string, unit: 'C' | 'F'): GridColDef<TableRow>[] {
  const ofNumber = numbers.map((c): GridColDef<TableRow> => ({
    field: c.key,
    headerName: c.word,
    width: numberWidths[c.key] ?? Math.max(84, 34 + 9 * c.word.length),
    disableColumnMenu: true,
    sortable: false,
    filterable: false,
    valueGetter: (_, row) => row.numbers[c.key] ?? '',
    ...(c.key === 'chance'
      ? { valueFormatter: (value: string) => (value === '' ? '' : `${value} in 100`) }
      : c.key === 'last_cut'
        ? { valueFormatter: (value: string) => (value === '' ? '' : day(value, zone)) }
        : {}),
  }));
  const catalogue = known.map((c): GridColDef<TableRow> => ({
    field: c.key,
    headerName: c.word,
    description: c.about,
    width: widths[c.key] ?? 140,
    sortable: c.key in sortKeys,
    filterable: false,
    valueGetter: (_, row) => row.cells[c.key] || (row.fromType[c.key] ?? ''),
    // What follows from the type is there, in grey.
    cellClassName: ({ row }) => (row.cells[c.key] ? '' : 'from-type'),
    ...(c.key === 'name' ? { renderCell: ({ row }) => <Link to={`/vinyls/${row.id}`}>{row.cells.name}</Link> } : {}),
    ...(c.key === 'colours'
      ? {
          renderCell: ({ row }) => (
            <span>
              {row.hex && <span className="dab" style={{ background: row.hex }} aria-hidden="true" />}
              {(row.cells.colours ?? '').replace(/ #[0-9a-f]{6}/g, '')}
            </span>
          ),
        }
      : {}),
  }));
  const names = catalogue.findIndex((c) => c.field === 'type');
  return [
    ...catalogue.slice(0, names),
    ...ofNumber,
    ...(['figures', 'source'] as const).map((part): GridColDef<TableRow> => ({
      field: `press.${part}`,
      headerName: words.table.press[part],
      description: words.pressSource.onCloth,
      width: part === 'figures' ? 210 : 180,
      sortable: false,
      filterable: false,
      valueGetter: (_, row) => sayPress(leanPress(row.press), unit)?.[part] ?? words.table.press.none,
    })),
    ...catalogue.slice(names),
    {
      field: 'used',
      headerName: words.table.used,
      width: 170,
      filterable: false,
      valueGetter: (_, row) => (row.usedAt ? day(row.usedAt, zone) : ''),
    },
  ];
}

export default function Grid({
  rows,
  numbers,
  total,
  query,
  onChange,
}: {
  rows: TableRow[];
  /** Columns for the cutter on the bench: after the name, since they are what is looked for. */
  numbers: NumberColumn[];
  total: number;
  query: TableQuery;
  onChange: (next: Record<string, string>) => void;
}) {
  const zone = useZone();
  const nonce = pageNonce();
  const [visible, setVisible] = useState(kept);
  const unit = useTemperatureUnit();
  const columns = useMemo(() => columnsOf(numbers, zone, unit), [numbers, zone, unit]);
  const choose = (model: GridColumnVisibilityModel) => {
    setVisible(model);
    try {
      localStorage.setItem(KEY, JSON.stringify(model));
    } catch {
      // Kept for this visit only.
    }
  };
  return (
    <div style={{ height: 560 }} data-testid="grid">
      <DataGrid
        rows={rows}
        columns={columns}
        rowCount={total}
        paginationMode="server"
        sortingMode="server"
        pageSizeOptions={[25, 50, 100]}
        paginationModel={{ page: query.page, pageSize: query.size }}
        onPaginationModelChange={(m) => onChange({ page: String(m.page), size: String(m.pageSize) })}
        sortModel={[{ field: query.sort, sort: query.down ? 'desc' : 'asc' }]}
        onSortModelChange={([s]) =>
          onChange({ sort: sortKeys[s?.field ?? 'name'] ?? 'name', down: s?.sort === 'desc' ? 'yes' : 'no', page: '0' })
        }
        columnVisibilityModel={visible}
        onColumnVisibilityModelChange={choose}
        disableColumnFilter
        disableRowSelectionOnClick
        rowHeight={56}
        showToolbar
        {...(nonce ? { nonce } : {})}
        aria-label={words.table.title}
        localeText={{
          toolbarColumns: words.table.columns,
          paginationDisplayedRows: ({ from, to, count }) => words.table.page(from, to, count),
        }}
        sx={{
          border: 0,
          borderTop: '1px solid var(--rule)',
          borderRadius: 0,
          font: 'inherit',
          color: 'var(--ink)',
          '--DataGrid-rowBorderColor': 'var(--rule)',
          '--DataGrid-containerBackground': 'var(--ground)',
          '--DataGrid-t-color-background-base': 'var(--ground)',
          '& .MuiDataGrid-columnSeparator': { color: 'var(--rule)' },
          '& .MuiDataGrid-columnHeaderTitle': { fontWeight: 700 },
          '& .MuiDataGrid-toolbar': { border: 0, background: 'var(--ground)', minHeight: 44, padding: 0 },
          '& .MuiDataGrid-footerContainer': { borderColor: 'var(--rule)' },
          '& .from-type': { color: 'var(--muted)' },
        }}
        slotProps={{
          toolbar: {
            csvOptions: { disableToolbarButton: true },
            printOptions: { disableToolbarButton: true },
            showQuickFilter: false,
          },
        }}
      />
    </div>
  );
}

-- What a cut of a job takes of a piece is an area: two small films lie side by side on a roll, and take its length once.
create table stock_area_take (
  cut_id uuid primary key references cut,
  stock_id uuid not null references stock,
  -- µm: across the piece, and along it from where areas begin.
  x_um integer not null check (x_um >= 0),
  y_um integer not null check (y_um >= 0),
  width_um integer not null check (width_um > 0),
  height_um integer not null check (height_um > 0),
  at timestamptz not null default now(),
  undone_at timestamptz
);
create index stock_area_take_stock on stock_area_take (stock_id) where undone_at is null;
comment on table stock_area_take is 'An area a cut took of a piece. Strips (stock_take) go off its length besides.';

-- A batch that is used up is no longer offered; what was cut of it stays.
alter table batch add column retired_at timestamptz;

-- How a person writes what lies between whole numbers: 11.5, 11,5 or 11½.
alter table person add column number_style text not null default 'point' check (number_style in ('point', 'comma', 'fractions'));

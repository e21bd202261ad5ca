import { plainColumn, plainTable, type Column, type Table } from '../src/core/table/model';

/** The tables that stand before any form does. Ids are fixed, so that forms can name them. */
export const tableId = (n: number): string => `01900000-0000-7000-9000-${String(n).padStart(12, '0')}`;

const column = (
  id: string,
  key: string,
  label: string,
  kind: Column['kind'],
  more: Partial<Column> = {},
): Column => ({ ...plainColumn, id, key, label, kind, ...more });

const beds: Table = {
  ...plainTable,
  id: tableId(1),
  key: 'beds',
  label: 'Beds',
  prefix: 'B',
  title: ['cbedcode', 'cbedname'],
  columns: [
    column('cbedcode', 'code', 'Code', 'text', { required: true, unique: true }),
    column('cbedname', 'name', 'Name', 'text', { required: true }),
    column('cbedhouse', 'section', 'Section', 'text', { required: true }),
    column('cbedarea', 'area', 'Area', 'decimal', { decimals: 2, unit: 'm²', required: true }),
    column('cbedopen', 'open_to_visitors', 'Open to visitors', 'yes-no'),
  ],
};

const taxa: Table = {
  ...plainTable,
  id: tableId(2),
  key: 'taxa',
  label: 'Taxa',
  prefix: 'T',
  title: ['ctaxname'],
  columns: [
    column('ctaxname', 'name', 'Name', 'text', { required: true, unique: true }),
    column('ctaxfamily', 'family', 'Family', 'text', { required: true }),
    column('ctaxprotected', 'permit_needed', 'Permit needed', 'yes-no'),
  ],
};

const products: Table = {
  ...plainTable,
  id: tableId(3),
  key: 'products',
  label: 'Products',
  prefix: 'P',
  title: ['cproname'],
  columns: [
    column('cproname', 'name', 'Name', 'text', { required: true, unique: true }),
    column('cprolicence', 'licence', 'Licence', 'text'),
    column('cproactive', 'active', 'Active substance', 'text'),
    column('cpromax', 'max_rate', 'Label’s top rate', 'decimal', {
      decimals: 1,
      unit: 'ml/m²',
      required: true,
    }),
    column('cprostock', 'in_stock', 'In stock', 'decimal', { decimals: 0, unit: 'ml', required: true }),
    column('cprorestricted', 'restricted', 'Restricted', 'yes-no', { required: true }),
  ],
};

export const baseTables: readonly Table[] = [beds, taxa, products];
export { beds, products, taxa };

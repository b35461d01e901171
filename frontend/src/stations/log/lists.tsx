import { RowsEditor } from '../../rows/RowsEditor'

/** What is there for now. */
export function Items() {
  return <RowsEditor listKey="provisional" open />
}

/** The ledger of money. */
export function MoneyLines() {
  return <RowsEditor listKey="money" open fresh={{ state: 'planned' }} />
}

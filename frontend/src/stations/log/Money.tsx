import { RowsEditor } from '../../rows/RowsEditor'

/** The ledger of money. */
export default function Money() {
  return <RowsEditor listKey="money" open fresh={{ state: 'planned' }} />
}

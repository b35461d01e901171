import { RowsEditor } from '../../rows/RowsEditor'

/** What is there for now. */
export default function Items() {
  return <RowsEditor listKey="provisional" open />
}

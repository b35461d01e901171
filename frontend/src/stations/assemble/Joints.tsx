import { RowsEditor } from '../../rows/RowsEditor'

/** The joints below their tightening table. */
export default function Joints() {
  return <RowsEditor listKey="joints" />
}

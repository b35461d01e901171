import { RowsEditor } from '../../rows/RowsEditor'

/** The solids of unit and chassis; a new one begins as a box. */
export default function Solids() {
  return <RowsEditor listKey="solids" fresh={{ shape: 'box' }} folded={['marks', 'marks_are']} />
}

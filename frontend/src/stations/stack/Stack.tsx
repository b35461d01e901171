import { Board } from '../../board/Board'
import { Ledger } from '../../ledger/Ledger'
import { useBuild } from '../../shell/buildContext'

/** Stack: the axial section to scale; plate and crank spacer can be dragged as a trial. */
export function Stack() {
  const { boards } = useBuild()
  return (
    <>
      <Board drawing={boards.stack} label="Section of the stack" ruler edge={34} />
      <Ledger station="stack" />
    </>
  )
}

import Button from '@mui/material/Button'
import Drawer from '@mui/material/Drawer'
import { useState } from 'react'
import { Tabs } from '../board/Tabs'
import { useBuild } from './buildContext'
import { useVisit } from './visit'
import './shell.css'

const GATES = [
  ['all', 'All'],
  ['lift', 'Lift'],
  ['start', 'Start'],
  ['motion', 'Motion'],
  ['hand-over', 'Hand-over'],
] as const
type Gate = (typeof GATES)[number][0]

/** Everything loose, temporary, looped, plugged or unproved, by the gate that it blocks. */
export function OpenDrawer({ close }: { close: () => void }) {
  const { assessment } = useBuild()
  const visit = useVisit()
  const [gate, setGate] = useState<Gate>('all')
  const order = GATES.map(([g]) => g)
  // A gate is shut by its own items and by those of every gate before it.
  const shown = assessment.opens.filter((i) => gate === 'all' || order.indexOf(i.gate as Gate) <= order.indexOf(gate))
  return (
    <Drawer anchor="right" open onClose={close} slotProps={{ paper: { 'aria-label': 'What is open', role: 'dialog' } }}>
      <div className="history">
        <div className="panelhead">
          <h2>What is open</h2>
          <Button variant="outlined" onClick={close} autoFocus>
            Close
          </Button>
        </div>
        <div className="steptools">
          <Tabs label="Gate" names={GATES} chosen={gate} choose={setGate} />
        </div>
        {shown.length === 0 && <p className="empty">Nothing open stands before this gate.</p>}
        <ul className="plain openlist">
          {shown.map((i, k) => (
            <li key={k}>
              <button
                type="button"
                className="turnline"
                onClick={() => {
                  close()
                  visit(i.row)
                }}
              >
                {i.text}
              </button>{' '}
              <span className="soft">{i.kind}, blocks {i.gate}</span>
            </li>
          ))}
        </ul>
      </div>
    </Drawer>
  )
}

import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api } from '../api/client'
import { StateFields } from '../ledger/StateFields'
import { useBuild } from './buildContext'

/** Something happened to the unit: what it spoils is listed before it is confirmed. */
export function EventDialog({ close }: { close: () => void }) {
  const { state, catalogue, change } = useBuild()
  const [event, setEvent] = useState(catalogue.events[0]?.name ?? '')
  const [part, setPart] = useState(catalogue.parts[0] ?? '')
  const asksPart = catalogue.events.find((e) => e.name === event)?.asks_part ?? false
  const preview = useQuery({
    queryKey: ['event', state.id, state.version, event, asksPart ? part : ''],
    queryFn: () => api.event(state.id, event, asksPart ? part : ''),
  })
  const confirm = async () => {
    if (preview.data === undefined) return
    const refused = await change(preview.data.patch, `event: ${event}`)
    if (refused === null) close()
  }
  return (
    <Dialog open onClose={close} aria-labelledby="event-title" fullWidth maxWidth="sm">
      <DialogTitle id="event-title">Something happened</DialogTitle>
      <DialogContent>
        <label className="field">
          Event
          <select value={event} onChange={(e) => setEvent(e.target.value)}>
            {catalogue.events.map((e) => (
              <option key={e.name}>{e.name}</option>
            ))}
          </select>
        </label>
        {asksPart && (
          <label className="field">
            Part
            <select value={part} onChange={(e) => setPart(e.target.value)}>
              {catalogue.parts.map((p) => (
                <option key={p}>{p}</option>
              ))}
            </select>
          </label>
        )}
        <h3>Lapses when you confirm</h3>
        {preview.data?.lapsing.length === 0 && <p>No reading lapses.</p>}
        <ul className="plain">
          {preview.data?.lapsing.map((x) => (
            <li key={x.address + x.statement}>
              <s className="mono">{x.shown}</s> {x.name}
            </li>
          ))}
        </ul>
        <h3>Also so now</h3>
        <div className="options">
          <StateFields state={state.document.state} of="the unit" only={['ride', 'heat', 'slots', 'steering']} put={(field, value) => change([{ op: 'add', path: `/state/${field}`, value }], `state of the unit, ${field}`)} />
        </div>
        <p className="soft">Readings that are taken from here on carry it; none lapses by it. Lapsed readings stay in the history and out of the verdicts. Undo brings them back.</p>
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={close}>
          Leave it
        </Button>
        <Button variant="contained" onClick={() => void confirm()} disabled={preview.data === undefined}>
          It happened
        </Button>
      </DialogActions>
    </Dialog>
  )
}

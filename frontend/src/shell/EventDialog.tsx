import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api } from '../api/client'
import type { Build, Catalogue } from '../api/types'
import { putAt } from '../entry/acts'
import { StateFields } from '../ledger/StateFields'
import { useBuild } from './buildContext'
import './shell.css'

const ASKED: Readonly<Record<string, string>> = { part: 'Part', joint: 'Joint', test: 'Test' }

/** What an event may name, with its words: parts of the build, its tightened joints, passed steps that prove something. */
function namesOf(asks: string, catalogue: Catalogue, build: Build): readonly (readonly [string, string])[] {
  if (asks === 'part') return catalogue.parts.map((p) => [p, p] as const)
  if (asks === 'joint') return build.joints.map((j) => [String(j.n), `${j.n} ${j.name}`] as const)
  return build.steps.filter((s) => s.state === 'done' && s.proves !== '').map((s) => [String(s.n), `${s.n} ${s.name}`] as const)
}

/** Something happened to the unit: what it spoils is listed before it is confirmed. */
export function EventDialog({ close }: { close: () => void }) {
  const { state, catalogue, change } = useBuild()
  const [event, setEvent] = useState(catalogue.events[0]?.name ?? '')
  const asks = catalogue.events.find((e) => e.name === event)?.asks ?? ''
  const names = asks === '' ? [] : namesOf(asks, catalogue, state.document)
  const [said, setSaid] = useState('')
  const which = names.some(([value]) => value === said) ? said : (names[0]?.[0] ?? '')
  const preview = useQuery({
    queryKey: ['event', state.id, state.version, event, which],
    queryFn: () => api.event(state.id, event, which),
  })
  const confirm = async () => {
    if (preview.data === undefined) return
    const refused = await change([{ do: 'event', event, which }], `event: ${event}`)
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
        {asks !== '' && (
          <label className="field">
            {ASKED[asks]}
            <select value={which} onChange={(e) => setSaid(e.target.value)}>
              {names.map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
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
          <StateFields id="unit" state={state.document.state} of="the unit" only={['ride', 'heat', 'slots', 'steering']} acts={(field, value) => [putAt(`/state/${field}`, value)]} />
        </div>
        <p className="soft">Readings that are taken from here on carry it; none lapses by it. Lapsed readings stay in the history and out of the verdicts. Undo brings them back.</p>
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={close}>
          Leave it
        </Button>
        <Button variant="contained" onClick={() => void confirm()} disabled={preview.data === undefined || (asks !== '' && names.length === 0)}>
          It happened
        </Button>
      </DialogActions>
    </Dialog>
  )
}

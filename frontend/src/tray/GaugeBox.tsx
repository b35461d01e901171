import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState, type FormEvent } from 'react'
import { api, queries } from '../api/client'
import type { GaugesState } from '../api/types'
import { once } from '../entry/hands'
import { useDesk } from '../entry/useDesk'
import { deafToLines, hearLines, onReading } from './lines'
import { typeHere } from './typed'
import './tray.css'

const NOISE_MM = 0.01
const DRIFT_MM = 0.002
const INCH_MM = 25.4

/** A calliper that types, for trying things out: it stands in for one on a cable, with what can be wrong with it. */
function TryCalliper() {
  const desk = useDesk()
  const [truth, setTruth] = useState('25')
  const [noisy, setNoisy] = useState(true)
  const [drifts, setDrifts] = useState(false)
  const [inches, setInches] = useState(false)
  const [sent, count] = useState(0)
  const press = () => {
    // Uniform noise of the same spread: this is a toy to try with, not a model of one.
    const shown = Number(truth.replace(',', '.')) + (noisy ? (Math.random() - 0.5) * 3.5 * NOISE_MM : 0) + (drifts ? sent * DRIFT_MM : 0)
    count(sent + 1)
    typeHere(desk, inches ? (Math.round((shown / INCH_MM) * 2000) / 2000).toFixed(4) : shown.toFixed(2), 'from the simulated calliper, while no field was in hand')
  }
  const box = (label: string, on: boolean, set: (on: boolean) => void) => (
    <label>
      <input type="checkbox" checked={on} onChange={(e) => set(e.target.checked)} /> {label}
    </label>
  )
  return (
    <fieldset className="trygauge">
      <legend>A simulated calliper that types</legend>
      <label className="field">
        held against, mm
        <input className="mono" value={truth} maxLength={12} onChange={(e) => setTruth(e.target.value)} />
      </label>
      {box('noise', noisy, setNoisy)}
      {box('drift', drifts, setDrifts)}
      {box('left in inches', inches, setInches)}
      {/* The field that is in hand keeps the hands: a real button sits on the gauge. */}
      <button type="button" className="plainbutton main" disabled={!Number.isFinite(Number(truth.replace(',', '.')))} onMouseDown={(e) => e.preventDefault()} onClick={press}>
        Press its button
      </button>
    </fieldset>
  )
}

/** Gauges: which are listened to, what they last sent, and a simulated one to try with. It covers no field and takes no hands. */
export function GaugeBox({ close }: { close: () => void }) {
  const desk = useDesk()
  const client = useQueryClient()
  const found = useQuery(queries.gauges()).data
  const [address, setAddress] = useState('')
  const [wrong, tell] = useState('')
  useEffect(() => onReading(() => void client.invalidateQueries({ queryKey: ['gauges'] })), [client])
  const ask = async (what: Promise<GaugesState>) => {
    try {
      const state = await what
      client.setQueryData(queries.gauges().queryKey, state)
      tell('')
      if (state.here && state.gauges.length > 0) hearLines(desk)
      else deafToLines()
    } catch (error) {
      tell(error instanceof Error ? error.message : String(error))
    }
  }
  const add = (event: FormEvent) => {
    event.preventDefault()
    void ask(api.listenTo(address)).then(() => setAddress(''))
  }
  return (
    <aside className="gaugebox" aria-label="Gauges">
      <div className="panelhead">
        <h2>Gauges</h2>
        <button type="button" className="plainbutton" onClick={close}>
          Close
        </button>
      </div>
      <p className="soft">One that types like a keyboard needs nothing: its readings go into the field in hand, or into the tray. One on a line sends from a socket of this machine.</p>
      <ul className="plain">
        {found?.gauges.map((g) => (
          <li key={g.address}>
            <span className="mono">{g.address}</span> {g.state}, {g.read} read
            {g.last && (
              <>
                , last <span className="mono">{g.last}</span>
              </>
            )}
            {g.garbage > 0 && <span className="tight"> {g.garbage} lines were no readings</span>}
            {g.flooded > 0 && <span className="fouls"> {g.flooded} came too fast and were left out</span>}{' '}
            <button type="button" className="quiet" onClick={once(() => void ask(api.letGo(g.address)))}>
              let go<span className="visually-hidden"> {g.address}</span>
            </button>
          </li>
        ))}
      </ul>
      {found !== undefined && found.gauges.length > 0 && !found.here && (
        <p>
          Their readings go to another screen.{' '}
          <button type="button" className="plainbutton" onClick={once(() => void ask(api.takeHere()))}>
            Take them here
          </button>
        </p>
      )}
      <form onSubmit={add} className="gaugeadd">
        <label className="field">
          Listen to
          <input className="mono" value={address} maxLength={80} placeholder="127.0.0.1:7801" onChange={(e) => setAddress(e.target.value)} />
        </label>
        <button type="submit" className="plainbutton">
          Listen
        </button>
      </form>
      {wrong !== '' && (
        <p role="alert" className="fouls">
          {wrong}
        </p>
      )}
      <TryCalliper />
    </aside>
  )
}

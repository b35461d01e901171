import Button from '@mui/material/Button'
import { useQuery } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { api, queries } from '../../api/client'
import type { Act, LogEntry } from '../../api/types'
import { ChoiceField } from '../../entry/ChoiceField'
import { pinName, pinsOf } from '../../photos/pins'
import { useBuild } from '../../shell/buildContext'
import { useVisit } from '../../shell/visit'
import { setSettings, useSettings } from '../../shell/settings'
import { Photo } from './Photo'
import './log.css'

const VIEWPOINTS = ['not said', "driver's seat", 'in front, looking back', 'the flywheel end', 'the accessory end']

/** What an entry is pinned to and which side it speaks of, said afterwards too. */
function LogPin({ entry }: { entry: LogEntry }) {
  const { state, catalogue, assessment } = useBuild()
  const [open, show] = useState(false)
  const groups = open ? pinsOf(catalogue, state.document, assessment.asked) : []
  const put = (field: string) => (value: string): Act[] => [{ do: 'put', list: 'log', row: entry.n, field, value: value as never }]
  if (!open)
    return (
      <button type="button" className="quiet" onClick={() => show(true)}>
        pin, side<span className="visually-hidden"> of entry {entry.n}</span>
      </button>
    )
  const pins: (readonly [string, string])[] = [['', 'the log alone'], ...groups.flatMap(([group, own]) => own.map((p) => [p.address, `${group}: ${p.name}`] as const))]
  const words = `Entry ${entry.n}`
  return (
    <div className="options">
      <label className="field">
        pinned to
        <ChoiceField id={`log-${entry.n}-pin`} words={`${words}, pinned to`} labelled shown={entry.pin} choices={pins} record acts={put('pin')} />
      </label>
      <label className="field">
        side, as said
        <ChoiceField id={`log-${entry.n}-side`} words={`${words}, side`} labelled shown={entry.side} choices={[['', 'none'], 'left', 'right']} record acts={put('side')} />
      </label>
      <label className="field">
        seen from
        <ChoiceField id={`log-${entry.n}-viewpoint`} words={`${words}, seen from`} labelled shown={entry.viewpoint} choices={VIEWPOINTS} record acts={put('viewpoint')} />
      </label>
    </div>
  )
}

/** Entries, newest first, with their pictures; a new one in one line. */
export default function Entries() {
  const { state, change, catalogue } = useBuild()
  const [text, setText] = useState('')
  const { who } = useSettings()
  const [files, setFiles] = useState<File[]>([])
  const [wrong, setWrong] = useState('')
  const entries = state.document.log
  const visit = useVisit()
  const pinned = (pin: string) =>
    pin !== '' && (
      <button type="button" className="quiet" onClick={() => visit(pin)}>
        {pinName(catalogue, state.document, pin)}
      </button>
    )
  const photos = useQuery({ ...queries.photos(state.id, state.tag), enabled: entries.some((e) => e.photos.length > 0) })
  const add = async (event: FormEvent) => {
    event.preventDefault()
    if (text.trim() === '') {
      setWrong('Say what happened first.')
      return
    }
    try {
      const photos = await Promise.all(files.map((f) => api.keepPhoto(state.id, f)))
      const refused = await change([{ do: 'add', list: 'log', row: { name: text.trim().slice(0, 200), note: text.trim().slice(200), who, at: new Date().toISOString(), photos } as never }], 'log entry')
      setWrong(refused ?? '')
      if (refused === null) {
        setText('')
        setFiles([])
      }
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error))
    }
  }
  return (
    <section aria-label="Log entries">
      <div className="panelhead">
        <h2>Log</h2>
        <span className="soft">{entries.length} entries</span>
      </div>
      <form className="options logform" onSubmit={(e) => void add(e)}>
        <label className="field note">
          What happened
          <input value={text} onChange={(e) => setText(e.target.value)} maxLength={2000} />
        </label>
        <label className="field">
          Who
          <input value={who} onChange={(e) => setSettings({ who: e.target.value })} maxLength={200} />
        </label>
        <Button variant="outlined" component="label">
          {files.length > 0 ? `${files.length} photo${files.length > 1 ? 's' : ''}` : 'Photo'}
          <input type="file" accept="image/jpeg,image/png,image/webp" multiple hidden onChange={(e) => setFiles([...(e.target.files ?? [])])} />
        </Button>
        <Button variant="contained" type="submit">
          Write it down
        </Button>
        {wrong && (
          <p role="alert" className="fouls">
            {wrong}
          </p>
        )}
      </form>
      <ol className="plain entries">
        {[...entries].reverse().map((e) => (
          <li key={e.n} id={`log-${e.n}-n`} tabIndex={-1}>
            <span className="soft">
              {e.at.slice(0, 10)} {e.who} {e.about && `· ${e.about}`} {pinned(e.pin)} {e.pinned_version && `(${e.pinned_version})`} {e.side && `${e.side}, seen from ${e.viewpoint === 'not said' ? 'where?' : e.viewpoint}`}
            </span>
            <div>
              <b>{e.name}</b> {e.note}
            </div>
            <LogPin entry={e} />
            {e.sounds.map((s) => (
              <audio key={s} controls preload="none" src={`/api/builds/${state.id}/photos/${s}`} aria-label={`Voice note with entry ${e.n}: ${e.name}`} />
            ))}
            {e.photos.map((p) => (
              <Photo key={p} entry={e.n} build={state.id} photo={p} of={`Photo with entry ${e.n}: ${e.name}`} deleted={photos.data !== undefined && !photos.data.some((x) => x.id === p)} />
            ))}
          </li>
        ))}
      </ol>
    </section>
  )
}

import { useEffect, useRef, useState } from 'react'
import { PinSelect } from '../photos/PinSelect'
import { settingsNow } from '../shell/settings'
import { dropCaught, keepCaught, onCaught, sendCaught, waiting, type Caught } from './queue'
import './capture.css'

/** Records with the page's own microphone where a page may have it; on plain http the phone's recorder takes its place. */
function useRecorder(done: (note: Blob) => void) {
  const recorder = useRef<MediaRecorder | null>(null)
  const [recording, setRecording] = useState(false)
  const [seconds, count] = useState(0)
  useEffect(() => {
    if (!recording) return undefined
    const tick = window.setInterval(() => count((s) => s + 1), 1000)
    return () => window.clearInterval(tick)
  }, [recording])
  const [wrong, tell] = useState('')
  const may = typeof navigator.mediaDevices?.getUserMedia === 'function' && typeof MediaRecorder === 'function'
  const start = async () => {
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: true })
      const parts: Blob[] = []
      const made = new MediaRecorder(stream)
      made.ondataavailable = (e) => parts.push(e.data)
      made.onstop = () => {
        stream.getTracks().forEach((track) => track.stop())
        setRecording(false)
        const note = new Blob(parts, { type: made.mimeType })
        if (note.size > 0) done(note)
        else tell('Nothing was recorded: hold it longer.')
      }
      made.start()
      count(0)
      recorder.current = made
      setRecording(true)
      tell('')
    } catch {
      tell('The microphone is not given to this page.')
    }
  }
  return { may, recording, seconds, wrong, toggle: () => (recording ? recorder.current?.stop() : void start()) }
}

/** Photo and voice note, each one large button; what is caught waits in the browser until the server has it. */
export function Catch({ build }: { build: string }) {
  const [about, setAbout] = useState('')
  const [pin, choose] = useState('')
  const [wrong, tell] = useState('')
  const keep = (kind: Caught['kind'], content: Blob) => {
    keepCaught({ build, kind, at: new Date().toISOString(), who: settingsNow().who, about: about.trim(), pin, content }).then(
      () => tell(''),
      (error: Error) => tell(`It is not kept: ${error.message}`),
    )
  }
  const recorder = useRecorder((note) => keep('sound', note))
  const file = (kind: Caught['kind'], words: string, accept: string) => (
    <label className="big" tabIndex={0}>
      {words}
      <input
        type="file"
        accept={accept}
        capture="environment"
        aria-label={words}
        onChange={(e) => {
          const picked = e.target.files?.[0]
          if (picked !== undefined) keep(kind, picked)
          e.target.value = ''
        }}
      />
    </label>
  )
  return (
    <section aria-label="Photo and voice note">
      <label className="field">
        About, for photo and note
        <input value={about} maxLength={200} onChange={(e) => setAbout(e.target.value)} />
      </label>
      <PinSelect pin={pin} choose={choose} />
      <div className="catchbuttons">
        {file('photo', 'Photo', 'image/*')}
        {recorder.may ? (
          <button type="button" className={`big ${recorder.recording ? 'on' : ''}`} aria-pressed={recorder.recording} onClick={recorder.toggle}>
            {recorder.recording ? `Stop the note ${Math.floor(recorder.seconds / 60)}:${String(recorder.seconds % 60).padStart(2, '0')}` : 'Voice note'}
          </button>
        ) : (
          file('sound', 'Voice note', 'audio/*')
        )}
      </div>
      {(wrong || recorder.wrong) && (
        <p role="alert" className="fouls">
          {wrong || recorder.wrong}
        </p>
      )}
    </section>
  )
}

/** What was caught and the server does not have. */
export function Waits() {
  const [all, setAll] = useState<readonly Caught[]>([])
  useEffect(() => {
    const look = () => void waiting().then(setAll)
    look()
    void sendCaught()
    return onCaught(look)
  }, [])
  if (all.length === 0) return null
  return (
    <section aria-label="Waiting to be sent">
      <p>
        <b>{all.length}</b> {all.length === 1 ? 'photo or note waits' : 'photos and notes wait'} here until Pindo answers
      </p>
      <ul className="plain">
        {all.map((c) => (
          <li key={c.id}>
            {c.kind === 'photo' ? 'photo' : 'voice note'} of {c.at.slice(11, 16)} {c.about} <span className="soft">{Math.ceil(c.content.size / 1024)} kB</span>
            {c.wrong !== '' && (
              <>
                {' '}
                <span className="fouls">refused: {c.wrong}</span>{' '}
                <a href={URL.createObjectURL(c.content)} download={`${c.kind} ${c.at}`}>
                  keep it as a file
                </a>{' '}
                <button type="button" className="quiet" onClick={() => void dropCaught(c.id)}>
                  throw it away
                </button>
              </>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

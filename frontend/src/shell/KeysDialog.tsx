import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'
import { setSettings, useSettings } from './settings'
import './shell.css'

const COMMANDS = [
  ['1 to 8', 'stations'],
  ['F', 'find a dimension, finding, station or command'],
  ['N', 'next unmeasured line'],
  ['M', 'run of readings: one after the other, with nothing between them but Enter'],
  ['T', 'start a trial: then arrow keys nudge it, with Shift ten times as far'],
  ['G', 'gauges: which are listened to, and a simulated one'],
  ['K', 'keep the trial'],
  ['U', 'undo'],
  ['R', 'redo'],
  ['H', 'history'],
  ['L', 'what is open: loose, temporary, looped, unproved'],
  ['V', 'profile from the side or from above'],
  ['P', 'print the sheet of this station; Ctrl P opens the same'],
  ['[ and ]', 'the question before, the next question'],
  ['0', 'these keys'],
] as const
const TYPING = [
  ['Enter or Tab', 'in a figure: take it over and go to the next unmeasured line'],
  ['Shift Enter', 'in a figure: only try it, with everything that it touches'],
  ['F2 to F10', 'the tool in hand, for this and the following lines; once more puts it down'],
  ['Esc', 'leave the field as it was; elsewhere, drop the trial'],
] as const

function Keys({ keys, before }: { keys: readonly (readonly [string, string])[]; before: string }) {
  return (
    <dl className="keys">
      {keys.map(([key, does]) => (
        <div key={key}>
          <dt>
            {before && <kbd>{before} </kbd>}
            <kbd>{key}</kbd>
          </dt>
          <dd>{does}</dd>
        </div>
      ))}
    </dl>
  )
}

export function KeysDialog({ close }: { close: () => void }) {
  const { bareKeys, sound } = useSettings()
  return (
    <Dialog open onClose={close} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys</DialogTitle>
      <DialogContent>
        <Keys keys={COMMANDS} before={bareKeys ? '' : 'Alt'} />
        <Keys keys={TYPING} before="" />
        <p>
          <label>
            <input type="checkbox" checked={bareKeys} onChange={(e) => setSettings({ bareKeys: e.target.checked })} /> The letter alone, without Alt, while no field is typed in
          </label>
        </p>
        <p>
          <label>
            <input type="checkbox" checked={sound} onChange={(e) => setSettings({ sound: e.target.checked })} /> A tone when an entry is refused
          </label>
        </p>
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={close} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  )
}

import Button from '@mui/material/Button'
import Dialog from '@mui/material/Dialog'
import DialogActions from '@mui/material/DialogActions'
import DialogContent from '@mui/material/DialogContent'
import DialogTitle from '@mui/material/DialogTitle'

const KEYS = [
  ['1 to 8', 'stations'],
  ['/', 'find a dimension, finding, station or command'],
  ['n', 'next unmeasured line'],
  ['Enter', 'in a figure: take it over and go to the next unmeasured line'],
  ['Shift Enter', 'in a figure: only try it, with everything that it touches'],
  ['t', 'start a trial: then arrow keys nudge it, with Shift ten times as far'],
  ['k', 'keep the trial'],
  ['Esc', 'drop the trial'],
  ['u', 'undo'],
  ['r', 'redo'],
  ['h', 'history'],
  ['l', 'what is open: loose, temporary, looped, unproved'],
  ['v', 'profile from the side or from above'],
  ['p', 'print the sheet of this station'],
  ['?', 'these keys'],
] as const

export function KeysDialog({ close }: { close: () => void }) {
  return (
    <Dialog open onClose={close} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys</DialogTitle>
      <DialogContent>
        <dl className="keys">
          {KEYS.map(([key, does]) => (
            <div key={key}>
              <dt>
                <kbd>{key}</kbd>
              </dt>
              <dd>{does}</dd>
            </div>
          ))}
        </dl>
        <p className="soft">None of them acts while you type in a field.</p>
      </DialogContent>
      <DialogActions>
        <Button variant="outlined" onClick={close} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  )
}

import type { Assessment, Build, Statement } from '../api/types'

/** What the guide looks at to see that a step was done; nobody has to say so. */
export interface Seen {
  readonly document: Build
  readonly assessment: Assessment
  readonly trying: boolean
}

export interface GuideStep {
  readonly key: string
  readonly title: string
  readonly say: string
  /** Sizes with the made-up figures that are to be typed. */
  readonly type?: readonly (readonly [key: string, typed: string])[]
  /** The size or choice that it leads to. */
  readonly at?: string
  readonly done: (seen: Seen) => boolean
}

/** All that was ever said of a size: what was done once stays done, though another figure stands now. */
const said = (document: Build, key: string): readonly Statement[] => document.dims[key]?.statements ?? []
const ever = (document: Build, key: string, like: RegExp): boolean => said(document, key).some((s) => s.takes.some((t) => like.test(t.typed)))
const STACK: readonly (readonly [string, string])[] = [
  ['crank_flange_mm', '4.03'],
  ['crank_bore_depth_mm', '42'],
  ['crank_spacer_mm', '10'],
  ['flywheel_mm', '28.1'],
  ['separator_mm', '1'],
  ['nose_mm', '24'],
  ['nose_chamfer_mm', '1.5'],
  ['pilot_sunk_mm', '0'],
  ['pilot_width_mm', '14'],
]
const ENGAGES = 'stack.pilot_engagement'
const verdictOf = (assessment: Assessment) => assessment.findings.find((f) => f.id === ENGAGES)?.verdict

/** Two castings with made-up figures, from the first reading to a sheet. */
export const STEPS: readonly GuideStep[] = [
  { key: 'fraction', title: 'A fraction', say: 'Type it as it comes off the rule, unit and all. Under the field stands how it was understood.', type: [['plate_mm', '23/32 in']], at: 'plate_mm', done: ({ document }) => ever(document, 'plate_mm', /\d\s*\/\s*\d/) },
  { key: 'pm', title: 'How sure', say: 'A ± of your own goes behind the figure. Without one the tool in hand decides, and with no tool it is a whole millimetre.', type: [['shaft_tip_out_mm', '26.7 ± 0.1']], at: 'shaft_tip_out_mm', done: ({ document }) => ever(document, 'shaft_tip_out_mm', /±|\+\/?-/) },
  { key: 'run', title: 'A run of readings', say: 'F3 takes the depth gauge in hand. Alt M begins a run: figure, Enter, figure, Enter; the picture shows what is read. Alt M ends it.', type: STACK, at: 'crank_flange_mm', done: ({ document }) => STACK.every(([key]) => said(document, key).length > 0) },
  { key: 'choice', title: 'What only you know', say: 'A finding names what it still wants. Say where the pilot bearing sits: in the crank.', at: 'pilot_in', done: ({ document, assessment }) => document.options['pilot_in'] === 'crank' && verdictOf(assessment) !== 'unmeasured' },
  { key: 'source', title: 'Where it comes from', say: 'Open the evidence at the end of the plate’s line and say that the figure is from a drawing. The ladder of sources decides what it may close.', at: 'plate_mm', done: ({ document }) => said(document, 'plate_mm').some((s) => s.source === 'drawing') },
  { key: 'trial', title: 'Try it first', say: 'The nose sits in its bearing with nothing to spare. F3 once more puts the gauge down: what comes now is a plan and was not measured. Type 16.3 at the plate and press Shift Enter: it is only tried, and everything that it touches is shown. Alt K keeps it.', type: [['plate_mm', '16.3']], at: 'plate_mm', done: ({ document, trying }) => !trying && ever(document, 'plate_mm', /^16\.3/) },
  { key: 'verdict', title: 'It goes', say: 'The nose goes now. A way out stands in every finding that fouls; ways out (top right) has them all at once. U takes your last change back, after Alt.', at: 'plate_mm', done: ({ assessment }) => verdictOf(assessment) === 'goes' },
]

/** The first step that is not done and was not skipped; their number when all are. */
export const stepNow = (seen: Seen, skipped: ReadonlySet<string>): number => {
  const at = STEPS.findIndex((s) => !skipped.has(s.key) && !s.done(seen))
  return at < 0 ? STEPS.length : at
}

/** What the shop says beside what stands on the screen: a word that is typed finds the others of its line too. */
const SAME = [
  ['release bearing', 'throwout', 'throw-out', 'thrust bearing', 'clutch bearing'],
  ['pilot bearing', 'spigot', 'nose bearing'],
  ['bell', 'bellhousing', 'bell housing', 'clutch housing'],
  ['clutch cover', 'pressure plate'],
  ['disc', 'friction plate', 'driven plate', 'clutch plate'],
  ['finger', 'diaphragm', 'spring fingers'],
  ['shaft tip', 'input shaft', 'nose'],
  ['spacer', 'shim', 'packer'],
  ['ring gear', 'starter ring', 'flexplate'],
  ['inclination', 'engine angle', 'tilt', 'lean'],
  ['joint', 'u-joint', 'uj', 'universal joint', 'cardan'],
  ['half shaft', 'axle shaft', 'cv shaft', 'drive shaft'],
  ['shaft', 'propshaft', 'prop shaft', 'driveshaft'],
  ['pinion', 'diff nose', 'diff flange'],
  ['runout', 'tir', 'dial reading', 'concentricity'],
  ['bonnet', 'hood'],
  ['sump', 'oil pan'],
  ['tyre', 'tire', 'wheel'],
  ['mount', 'engine mount', 'rubber', 'foot'],
  ['bulkhead', 'firewall'],
  ['torque', 'tightening', 'torque wrench'],
  ['window', 'hole in the plate', 'bore of the plate'],
] as const

const told = (text: string) => text.toLowerCase().split(/\s+/).filter(Boolean)

/** Ways to say a text: as it is, and with each shop word in it replaced by its fellows. */
export function waysToSay(text: string): string[] {
  const plain = told(text).join(' ')
  const others = SAME.flatMap((line) => line.filter((word) => plain.includes(word)).flatMap((word) => line.filter((w) => w !== word).map((w) => plain.replace(word, w))))
  return [...new Set([plain, ...others])]
}

/** What holds every word that was typed, in one of the ways to say it; what is said as it was typed comes first. */
export function foundBy<T>(text: string, rows: readonly T[], wordsOf: (row: T) => string): T[] {
  const found = new Set<T>()
  for (const way of waysToSay(text))
    for (const row of rows) {
      const words = wordsOf(row).toLowerCase()
      if (told(way).every((w) => words.includes(w))) found.add(row)
    }
  return [...found]
}

import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { describe, expect, it } from 'vitest'

const SRC = join(import.meta.dirname, '../../frontend/src')
const all = readdirSync(SRC, { recursive: true, withFileTypes: true })
  .filter((e) => e.isFile())
  .map((e) => join(e.parentPath, e.name))
const read = (file: string) => readFileSync(file, 'utf8')
const folderOf = (file: string) => relative(SRC, dirname(file))
/** What a style sheet speaks of: the first class of each selector; the others say how that one is. */
const classesIn = (css: string) =>
  new Set(
    css
      .replace(/@[^{]*\{/g, '')
      .replace(/\{[^{}]*\}/g, ',')
      .split(',')
      .flatMap((selector) => /\.([A-Za-z][\w-]*)/.exec(selector)?.[1] ?? []),
  )
const WORN = /className=(?:"([^"]*)"|\{((?:[^{}]|\{(?:[^{}]|\{[^{}]*\})*\})*)\})/g
/** Words that a component gives out as classes: what stands in quotes, and templates without what they work out. */
const given = (text: string) =>
  new Set(
    [...text.matchAll(WORN)].flatMap(([, plain, worked = '']) => {
      const quoted = [...worked.matchAll(/'([^']*)'/g)].map((m) => m[1] ?? '')
      const templates = [...worked.matchAll(/`([^`]*)`/g)].map((m) => (m[1] ?? '').replace(/\$\{[^}]*\}/g, ' '))
      return [plain ?? '', ...quoted, ...templates].join(' ').match(/[A-Za-z][\w-]*/g) ?? []
    }),
  )

const sheets = all.filter((f) => f.endsWith('.css') && folderOf(f) !== 'theme')
const shared = classesIn(read(join(SRC, 'theme/shared.css')))

describe('style sheets', () => {
  it('belong to the folder whose components wear them, and each of those asks for its own', () => {
    expect(sheets.length).toBeGreaterThan(8)
    const own = new Map(sheets.map((f) => [folderOf(f), new Set([...classesIn(read(f))].filter((c) => !shared.has(c)))]))
    for (const file of all.filter((f) => f.endsWith('.tsx'))) {
      const worn = given(read(file))
      for (const [folder, classes] of own) {
        const used = [...worn].filter((c) => classes.has(c) && [...own].filter(([, other]) => other.has(c)).length === 1)
        if (used.length === 0) continue
        expect(folderOf(file), `${relative(SRC, file)} wears ${used.join(', ')}`).toBe(folder)
        expect(read(file), relative(SRC, file)).toMatch(/^import '\.\/[a-z]+\.css'$/m)
      }
    }
  })
  it('take their colours from the one set of tokens', () => {
    for (const file of [...sheets, join(SRC, 'theme/shared.css')]) expect(read(file), file).not.toMatch(/#[0-9a-f]{3,6}\b/i)
  })
})

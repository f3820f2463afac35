// Makes the demo sheets of panels and panes by the interface's own edits, on a server that runs:
//   ./start --no-demo --data /tmp/demo & node scripts/demo-sheets.mjs http://127.0.0.1:4173 /tmp/demo/start-token
// Writes them to demo/, with photos and subjects by name instead of by content.
import { createHash } from 'node:crypto'
import { readFile, writeFile } from 'node:fs/promises'

const server = process.argv[2] ?? 'http://127.0.0.1:4173'
const demo = new URL('../demo/', import.meta.url)
const token = (await readFile(process.argv[3] ?? new URL('../data/start-token', import.meta.url), 'utf8')).trim()

async function call(method, path, body, type = 'application/json') {
  const answer = await fetch(`${server}/api${path}`, { method, body, headers: { 'content-type': type, authorization: `Bearer ${token}` } })
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`)
  return answer.json()
}

/** The same identifiers whenever the script runs. */
let named = 0
const id = (sheet) => {
  const h = createHash('sha256').update(`${sheet} ${named++}`).digest('hex')
  return `${h.slice(0, 8)}-${h.slice(8, 12)}-4${h.slice(13, 16)}-8${h.slice(17, 20)}-${h.slice(20, 32)}`
}

async function sheet(file, facts, make) {
  named = 0
  const { id: at } = await call('POST', '/sheets', JSON.stringify({ unit: 'mm', ppi: 150, ...facts }))
  const photos = {}
  const drawn = {}
  const edit = async (...edits) => {
    const { revision } = await call('GET', `/sheets/${at}`)
    await call('POST', `/sheets/${at}/edits`, JSON.stringify({ base: revision, request: crypto.randomUUID(), gesture: null, edits }))
  }
  const photo = async (name) => {
    const card = await call('POST', `/photos?name=${name}.jpg`, await readFile(new URL(`photos/${name}.jpg`, demo)), 'image/jpeg')
    photos[card.id] = name
    return card
  }
  const word = async (text, font, x, y, size, colour, more = {}) => {
    const [piece, form, fill] = [id(file), id(file), id(file)]
    const lettering = { text, font, size, tracking: 0, leading: 1, align: 'left', ...more }
    const made = { id: form, join: 'add', off: false, pose: { x, y, turn: 0, slant: 0, wide: 1, tall: 1 }, shape: { kind: 'lettering', ...lettering } }
    await edit({ edit: 'add_window', piece, form: made, fill }, { edit: 'set_fill_colour', piece, fill, colour })
    return piece
  }
  const now = async () => (await call('GET', `/sheets/${at}`)).sheet
  await make({ edit, photo, word, now, id: () => id(file), subject: (card, find) => (drawn[card.id] = find) })
  const made = await now()
  let text = JSON.stringify({ format: 'inky-window-sheet', version: 1, sheet: made, photos: {}, subjects: {} })
  for (const [hash, name] of Object.entries(photos)) text = text.replaceAll(hash, name)
  const whole = JSON.parse(text)
  for (const [hash, name] of Object.entries(photos)) {
    whole.photos[name] = { file: `photos/${name}.jpg` }
    delete whole.sheet.photos[name].subjects
    if (drawn[hash]) {
      whole.subjects[name] = { find: drawn[hash] }
      whole.sheet.photos[name].subject = name
    }
  }
  await writeFile(new URL(`${file}.sheet.json`, demo), JSON.stringify(whole, null, 1) + '\n')
  console.log(file)
}

const form = (id, shape, x, y, more = {}) => ({ id, join: 'add', off: false, pose: { x, y, turn: 0, slant: 0, wide: 1, tall: 1 }, shape, ...more })

await sheet('wool-day', { name: 'Wool day, three views', width: 420, height: 297 }, async ({ edit, photo, word, now, id, subject }) => {
  await edit({ edit: 'set_background', colour: '#173a4d' })
  const [dunes, lanterns, balloon, sheep] = [await photo('dunes'), await photo('lanterns'), await photo('balloon'), await photo('woolly-sheep')]
  // three slanted panels, a photo each
  const panels = id()
  await edit({ edit: 'add_window', piece: panels, form: form(id(), { kind: 'basic', width: 108, height: 168, figure: { figure: 'box', corners: [0, 0, 0, 0] } }, 94.8, 112), fill: id() })
  await edit({ edit: 'transform', pieces: [panels], what: 'opening', by: [1, 0, -0.2, 1, 22.4, 0] })
  await edit({ edit: 'set_repeat', piece: panels, repeat: { layout: { kind: 'row', count: 3, gap: 7, along: [1, 0] }, scale: 1 } })
  await edit({ edit: 'deal', piece: panels, from: 0, photos: [dunes, lanterns, balloon].map((card) => [id(), card.id]) })
  // a subject across them
  const piece = id()
  subject(sheep, { within: { x: 250, y: 240, width: 1820, height: 1260 } })
  await edit({ edit: 'add_picture', piece, photo: sheep.id })
  const own = (await now()).pieces.find((p) => p.id === piece).kind.fills[0].id
  await edit({ edit: 'amend', of: 'fill', piece, fill: own, changes: [{ op: 'add', path: '/paint/alone', value: true }, { op: 'replace', path: '/paint/placement', value: { x: 202, y: 138, scale: 0.124, turn: 0, mirrored: false } }] })
  await edit({ edit: 'name_piece', piece: panels, name: 'Three views' }, { edit: 'name_piece', piece, name: 'Sheep' })
  await word('WOOL DAY', 'anton', 24, 278, 54, '#f4e6c6', { tracking: 10 })
  await word('SHEAR, SPIN AND SING', 'anton', 396, 258, 15, '#f3b63c', { tracking: 60, align: 'right' })
  await word('OSTREY DUNES, 3 MAY', 'anton', 396, 278, 15, '#f4e6c6', { tracking: 60, align: 'right' })
})

await sheet('half-lit', { name: 'Half lit', width: 297, height: 420 }, async ({ edit, photo, word, id }) => {
  await edit({ edit: 'set_background', colour: '#f3d9a4' })
  const lanterns = await photo('lanterns')
  // a lantern of four shapes, joined
  const lantern = id()
  await edit({ edit: 'add_window', piece: lantern, form: form(id(), { kind: 'basic', width: 190, height: 216, figure: { figure: 'ellipse' } }, 148.5, 196), fill: id() })
  const box = (width, height, y) => form(id(), { kind: 'basic', width, height, figure: { figure: 'box', corners: [3, 3, 3, 3] } }, 148.5, y)
  for (const more of [box(84, 20, 90), box(84, 20, 302), box(6, 60, 54)]) await edit({ edit: 'opening', piece: lantern, change: 'add_form', form: more })
  await edit({ edit: 'fill_with_photo', piece: lantern, fill: id(), photo: lanterns.id })
  // torn in two: the upper half lifted and turned
  const line = id()
  await edit({ edit: 'set_split', piece: lantern, split: { edges: 'old', lines: [{ id: line, points: [[40, 206], [257, 186]], course: { kind: 'zigzag', count: 7, depth: 22 } }] } })
  const turn = (degrees, [x, y], [dx, dy]) => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
    return [c, s, -s, c, x - c * x + s * y + dx, y - s * x - c * y + dy]
  }
  const looks = [
    { id: id(), pane: [{ line, far: true }], by: turn(7, [148, 140], [10, -16]), name: 'lid' },
    { id: id(), pane: [{ line, far: false }], by: turn(-3, [148, 250], [-4, 12]), name: 'bowl' },
  ]
  await edit({ edit: 'set_split', piece: lantern, split: { edges: 'old', lines: [{ id: line, points: [[40, 206], [257, 186]], course: { kind: 'zigzag', count: 7, depth: 22 } }], looks } })
  await edit({ edit: 'name_piece', piece: lantern, name: 'Lantern' })
  await word('HALF', 'anton', 52, 394, 64, '#231a3c', { tracking: 10 })
  await word('LIT', 'anton', 180, 394, 64, '#c8321f', { tracking: 10 })
  await word('THE NIGHT THE LANTERNS ARE MENDED', 'anton', 148.5, 410, 8, '#231a3c', { tracking: 90, align: 'centre' })
})

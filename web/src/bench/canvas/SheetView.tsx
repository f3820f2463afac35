import { PointedPlace } from '../proof/PointedPlace'
import { useEffect, useRef, useState } from 'react'
import { giveKeysToSheet } from '../../parts/focus'
import type { PieceView } from '../../types/PieceView'
import { startCopyDrag, startDrag } from './drag'
import { movedFill } from '../fill/fills'
import { coverOf, fitted, groupTransform, zoomed } from './viewport'
import { FormHandles } from '../opening/FormHandles'
import { startFormMove } from '../opening/formDrag'
import { formUnder, handledForms, holdForm, openForm, windowOf } from '../opening/forms'
import { GradientHandles, hasOwnHandles } from '../fill/GradientHandles'
import { GuideLines } from '../guides/GuideLines'
import { Rulers } from '../guides/Rulers'
import { Arriving } from './Arriving'
import { BareEdges } from './BareEdges'
import { Ghost } from './Ghost'
import { SnapLines } from './SnapLines'
import { GripBar } from './GripBar'
import { RegionLines, startJoin, useRegions } from '../opening/JoinSweep'
import { GripHandles } from './GripHandles'
import { dragOf, heldNow, heldPiece } from '../state/held'
import { seenPath } from './outlines'
import { startOnPanes } from '../panes/drawLine'
import { PaneHandles } from '../panes/PaneHandles'
import { bringIntoPane } from '../panes/photo'
import { choosePane, paneAt } from '../panes/split'
import { PageMarkup, PieceMarkup } from './PieceMarkup'
import { BreakoutMarks, FaintSubject, OverhangWashes } from '../breakout/BreakoutOverlay'
import { startCorrection } from '../breakout/choice'
import { Cuts } from '../breakout/Cuts'
import { startCut } from '../breakout/cuts'
import { BrushOverlay, startStroke } from '../opening/BrushMode'
import { bundlesAround, bundlesAroundPiece, layersOf, repeatedAround } from '../bundle/bundles'
import { dividedAround, seenBounds, topmost } from '../bundle/divided'
import { DividedOutline } from '../bundle/DividedOutline'
import { Layers } from '../bundle/Layers'
import { stepInAt } from '../bundle/bundling'
import { CellWashes, startSweep } from '../opening/CellsMode'
import { DrawOverlay, startDraw } from '../opening/DrawMode'
import { PieceWashes } from '../opening/PiecesMode'
import { OpenSideHandles } from '../opening/OpenSideHandles'
import { PullHandles } from '../opening/PullHandles'
import { startTrace, TraceOverlay } from '../opening/TraceOverlay'
import { startHint } from '../subject/hints'
import { shownPast } from '../history/past'
import { canSettle } from '../fill/settle'
import { CarryHint, Inside, NotDrawn, SwitchedOff, Uploads } from './SheetMessages'
import { PIECES } from '../stack/dropping'
import { SubjectOverlay } from '../subject/SubjectOverlay'
import { bringIn, photosOf, putTogether } from '../fill/photos'
import { placeOf } from './place'
import { MemberHandles } from '../repeat/MemberHandles'
import { dealPhotos } from '../repeat/photos'
import { startAlong } from '../repeat/drawAlong'
import { memberAt, repeatOf } from '../repeat/repeats'
import { bundleOf, isUnitLocked, pageOf, unitNow } from '../state/unit'
import { chosen, isChosen, pressOn, remember, selectAlso, startSelectSweep, within } from '../state/selection'
import { inverse, matrix, STILL, then, type Point } from '../geometry/similarity'
import { useSheetState } from '../state/sheetState'
import { bench, BUSY, viewOf, viewsOf, pieceOf, select, type BenchState } from '../state/store'

/** The outlines of more selected pieces than this are one path: each element of its own takes time. */
const MANY = 40

/** Modes in which places of the sheet are pointed at. */
const CROSSHAIR = ['draw', 'trace', 'brush']

/** The sheet in the middle of the bench. */
export function SheetView() {
  const s = useSheetState()
  const { view, drag, mode, trying } = s
  /** The subject that is looked for, also while a contour is traced for it. */
  const searched = mode?.kind === 'subject' ? mode : mode?.kind === 'trace' ? mode.subject : null
  const port = useRef<HTMLDivElement>(null)
  useRegions()
  const [over, setOver] = useState<string | null>(null)
  const [dropping, setDropping] = useState(false)
  const sheet = s.bench?.sheet
  const id = s.bench?.id

  useEffect(() => {
    const element = port.current
    if (!element || id === undefined) return
    let first = true
    const watch = new ResizeObserver(() => {
      const size = { width: element.clientWidth, height: element.clientHeight }
      const present = bench.get().bench?.sheet
      bench.set({ port: size, ...(first && present ? { view: fitted([0, 0, present.width, present.height], size, bench.get().view.turn) } : {}) })
      first = false
    })
    watch.observe(element)
    // React's wheel listeners are passive, so that the page would zoom as well
    const wheel = (e: WheelEvent) => {
      e.preventDefault()
      const box = element.getBoundingClientRect()
      const v = bench.get().view
      if (e.ctrlKey || e.metaKey) {
        bench.set({ view: zoomed(v, Math.exp(-e.deltaY * 0.004), e.clientX - box.left, e.clientY - box.top) })
      } else {
        bench.set({ view: { ...v, x: v.x - e.deltaX, y: v.y - e.deltaY } })
      }
    }
    element.addEventListener('wheel', wheel, { passive: false })
    return () => {
      watch.disconnect()
      element.removeEventListener('wheel', wheel)
    }
  }, [id])

  if (!s.bench || !sheet) return null
  const pieceViews = viewsOf(s)
  const past = shownPast(s)
  const bare = s.bare && !past && !mode
  const stage = past ? { sheet: past.sheet, page: past.scene.page, pieceViews: past.scene.pieces } : { sheet, page: pageOf(s) ?? s.bench.scene.page, pieceViews }
  const isFree = (piece: string) => !pieceOf(s, piece)?.locked
  const under = (point: Point) => topmost(s, pieceViews.filter((l) => isFree(l.piece)), point)

  const down = (e: React.PointerEvent) => {
    giveKeysToSheet()
    if (s.looking) {
      pan(e)
      return
    }
    // the ground is what Alt takes hold of, where nothing lies
    const joins = s.handling === 'join' && s.selected !== null && !mode
    const grasped = e.altKey && !mode && !joins ? under(placeOf(e)) : undefined
    if (e.button === 0 && grasped) {
      const held = heldAt(s, placeOf(e))
      startCopyDrag(e, held.length > 0 ? held : [grasped.piece], placeOf)
      return
    }
    if (e.button === 1 || (e.button === 0 && e.altKey && !mode && !joins)) {
      pan(e)
      return
    }
    if (mode?.kind === 'cells' && (e.button === 0 || e.button === 2)) {
      startSweep(e, placeOf)
      return
    }
    if (e.button !== 0) return
    if (mode?.kind === 'draw') {
      startDraw(e, placeOf)
      return
    }
    if (mode?.kind === 'brush') {
      startStroke(e, placeOf)
      return
    }
    if (mode?.kind === 'trace') {
      startTrace(e, placeOf)
      return
    }
    if (mode?.kind === 'subject') {
      startHint(e, placeOf)
      return
    }
    if (mode?.kind === 'breakout') {
      if (mode.tool === 'cut') startCut(e, placeOf)
      else startCorrection(e, placeOf)
      return
    }
    if (mode) return
    const point = placeOf(e)
    const own = viewOf(s, s.selected)
    const unit = unitNow(s)
    if (unit !== null && !isUnitLocked(s, unit) && e.button === 0) {
      if (s.open === 'panes' && startOnPanes(e, unit, placeOf)) return
      if (s.open === 'repeat' && s.along.drawing) {
        startAlong(e, unit, placeOf)
        return
      }
    }
    const member = unit !== null && s.open === 'repeat' && !isUnitLocked(s, unit) && e.button === 0 ? memberAt(s, unit, point) : null
    if (member !== null) {
      bench.set({ member, memberPiece: under(point)?.piece ?? null })
      startDrag(e, heldNow(), placeOf)
      return
    }
    if (own && s.handling === 'join' && isFree(own.piece)) {
      startJoin(e, own.piece, placeOf)
      return
    }
    if (own && s.forms.length > 0 && isFree(own.piece)) {
      // with a form held, forms are what is moved
      const form = formUnder(own, s.forms, point)
      if (form !== undefined && (s.forms.includes(form) || e.shiftKey)) {
        if (e.shiftKey) holdForm(form, true)
        // all forms together are the opening, which the browser moves by itself, however many nodes it has
        const all = windowOf(s, own.piece)?.opening.forms.every((f) => bench.get().forms.includes(f.id))
        if (all) startDrag(e, heldPiece(own.piece, 'opening'), placeOf)
        else startFormMove(e, own.piece, placeOf)
        return
      }
      if (form !== undefined) {
        // a press on another form holds it; a drag moves the figure
        startDrag(e, heldPiece(own.piece), placeOf, () => holdForm(form))
        return
      }
    }
    const seen = under(point)
    if (e.shiftKey) {
      if (!seen) startSelectSweep(e, placeOf)
      else if (isChosen(s, seen.piece)) startDrag(e, heldNow(), placeOf, () => selectAlso(seen.piece))
      else {
        selectAlso(seen.piece)
        startDrag(e, heldNow(), placeOf)
      }
      return
    }
    // what is selected is moved by its whole face, counters and gaps too; a press that moves nothing selects what is seen
    if (heldAt(s, point).length > 0) {
      startDrag(e, heldNow(), placeOf, () => pressOn(point))
      return
    }
    if (!seen) {
      startSelectSweep(e, placeOf)
      return
    }
    select(seen.piece)
    remember(seen.piece, point)
    startDrag(e, heldNow(), placeOf)
  }

  const selected = viewOf(s, s.selected)
  const ghost = selected && !mode && s.selected !== null && (drag ? drag.what === 'fill' : s.grip === 'fill')
  const ofBundle = drag && bundleOf(s, drag.pieces[0] ?? null) !== undefined
  const shownBy = (ofBundle ? s.triedPage?.by : s.tried[chosen(s)[0] ?? '']?.by) ?? STILL
  const residual = drag ? then(inverse(shownBy), drag.by) : STILL
  const held = mode ? null : heldNow()
  const aboutParts = s.open === 'panes' || s.open === 'repeat'
  const several = s.several.flatMap((p) => (mode || aboutParts ? [] : (viewOf(s, p) ?? [])))
  // bundles in panes or repeated are outlined where they are seen
  const divided = [...new Set(several.flatMap((v) => dividedAround(s, v.piece)[0] ?? []))]
  const single = several.filter((v) => dividedAround(s, v.piece).length === 0)
  const outlines =
    single.length > MANY
      ? [{ key: 'all', d: single.map(seenPath).join(''), busy: single.reduce((sum, v) => sum + v.nodes, 0) >= BUSY * MANY }]
      : single.map((v) => ({ key: v.piece, d: seenPath(v), busy: v.nodes >= BUSY }))
  const sweeping = s.sweep ? within(s, s.sweep) : []
  const swept = pieceViews.filter((v) => sweeping.includes(v.piece))
  const locked = held?.pieces.every((p) => !isFree(p)) ?? false
  const hovered = over !== null && !isChosen(s, over) && !drag && !mode ? viewOf(s, over) : undefined

  // the only form of a window has its handles beside the grip, and the form that fills it while the grip is about that
  const showsFormHandles = s.forms.length > 0 || (!drag && !hasOwnHandles(s) && handledForms(s).length > 0)
  const bleed = stage.sheet.bleed ?? 0
  const frame = {
    style: coverOf(view, stage.sheet),
    viewBox: `0 0 ${stage.sheet.width} ${stage.sheet.height}`,
    preserveAspectRatio: 'none',
  }

  /** How far a piece is carried beyond what its view shows already. */
  const carried = (piece: string) => {
    const own = drag && dragOf(s, piece)
    return own && own.what !== 'fill' && own.pane === null && own.member === null ? then(inverse(s.tried[piece]?.by ?? STILL), own.by) : STILL
  }
  const viewsByPiece = new Map(stage.pieceViews.map((v) => [v.piece, v]))
  /** What is drawn of a piece in one member of the repeated bundle around it, if that is something of its own. */
  const ownIn = (piece: string, member: number) => viewsByPiece.get(piece)?.bundle_members?.find((own) => own.member === member)
  /** A piece with what is seen of it beneath it. */
  const drawn = (piece: string, member: number | null) => {
    const pieceView = viewsByPiece.get(piece)
    const shown = member === null ? pieceView : ownIn(piece, member)
    if (!pieceView || !shown) return null
    const { markup, outline = pieceView.outline } = shown
    if (past) return <PieceMarkup piece={piece} member={member} markup={markup} outline={outline} drag={null} shown={null} lively={false} />
    return (
      <g opacity={s.inside !== null && !bundlesAroundPiece(sheet, pieceView.piece).includes(s.inside) ? 0.25 : undefined}>
        {ghost && pieceView.piece === s.selected && <Ghost pieceView={pieceView} fill={movedFill(s, pieceView.piece)} by={residual} opacity={0.3} />}
        {mode?.kind === 'breakout' && pieceView.piece === mode.piece && <FaintSubject pieceView={pieceView} sheet={sheet} piece={mode.piece} />}
        <PieceMarkup
          piece={pieceView.piece}
          member={member}
          markup={markup}
          outline={outline}
          drag={drag && dragOf(s, pieceView.piece)}
          shown={s.tried[pieceView.piece]?.by ?? null}
          lively={trying && s.tried[pieceView.piece] !== undefined}
        />
      </g>
    )
  }

  return (
    <div
      ref={port}
      data-testid="port"
      data-past={past ? '' : undefined}
      className={`absolute inset-0 touch-none overflow-hidden ${(mode?.kind === 'subject' && mode.tool !== null) || (mode?.kind === 'breakout' && mode.tool !== 'parts') || (mode && CROSSHAIR.includes(mode.kind)) || (s.open === 'panes' && s.panes.drawing) || (s.open === 'repeat' && s.along.drawing) ? 'cursor-crosshair' : ''}`}
      onContextMenu={(e) => {
        if (mode?.kind === 'cells') e.preventDefault()
      }}
      onPointerDown={down}
      onPointerMove={(e) => {
        if (!drag && !mode && !s.looking) setOver(under(placeOf(e))?.piece ?? null)
      }}
      onPointerLeave={() => setOver(null)}
      onDoubleClick={(e) => {
        const hit = under(placeOf(e))
        if (!hit || mode || s.looking || stepInAt(placeOf(e))) return
        const pane = paneAt(s, hit.piece, placeOf(e))
        if (pane) {
          if (s.selected !== hit.piece) select(hit.piece)
          bench.set({ open: 'panes' })
          choosePane(pane.at)
          return
        }
        const form = formUnder(hit, [], placeOf(e))
        if (form !== undefined) bench.set({ selected: hit.piece, forms: [form], open: 'form', typesInto: true })
        else if (openForm(hit.piece)) bench.set({ open: 'form', typesInto: true })
      }}
      onDragOver={(e) => {
        e.preventDefault()
        setDropping(true)
        setOver(under(placeOf(e))?.piece ?? null)
      }}
      onDragLeave={() => setDropping(false)}
      onDrop={(e) => {
        e.preventDefault()
        setDropping(false)
        giveKeysToSheet()
        if (!canSettle()) return
        const target = under(placeOf(e))?.piece ?? null
        const [dragged, ...more] = e.dataTransfer.getData(PIECES).split(' ')
        if (dragged && more.length === 0 && target !== null && target !== dragged) void putTogether(target, dragged)
        // a pane takes what is dropped on it while its card is open
        const pane = s.open === 'panes' && target === s.selected ? paneAt(s, target, placeOf(e)) : undefined
        const files = photosOf(e.dataTransfer)
        // several photos on what is repeated are dealt out; one goes to the member it is dropped on while the card is open
        const own = repeatOf(s, target)
        const bundle = !own && target !== null ? repeatedAround(sheet, target) : null
        const unit = own ? target : bundle
        const member = unit === null || repeatOf(s, unit)?.behind ? null : files.length > 1 ? 0 : s.open === 'repeat' ? memberAt(s, unit, placeOf(e)) : null
        if (member !== null && target !== null) {
          void dealPhotos(files, target, member, bundle)
          return
        }
        for (const file of files) void (pane && target !== null ? bringIntoPane(file, target, pane.at) : bringIn(file, target))
      }}
    >
      {ghost && (
        // what of the photo lies beside the sheet
        <svg aria-hidden className="pointer-events-none absolute overflow-visible" {...frame}>
          <Ghost pieceView={selected} fill={movedFill(s, selected.piece)} by={residual} opacity={0.18} />
        </svg>
      )}
      <svg
        data-testid="scene"
        role="img"
        aria-label={`The sheet “${sheet.name}”`}
        className={`absolute bg-white shadow-sheet ${searched || bleed > 0 ? 'overflow-visible' : 'overflow-hidden'}`}
        {...frame}
        style={bleed > 0 && !searched ? { ...frame.style, clipPath: `inset(${-bleed * view.zoom}px)` } : frame.style}
      >
        <rect x={-bleed} y={-bleed} width={stage.sheet.width + 2 * bleed} height={stage.sheet.height + 2 * bleed} fill={bare ? 'white' : (s.ground ?? stage.page.background)} />
        {!s.ground && !bare && <PageMarkup markup={stage.page.backdrop} />}
        <Layers
          layers={bare ? [] : layersOf(stage.sheet, stage.pieceViews.map((v) => v.piece))}
          views={stage.page.bundles}
          inside={s.inside === null ? null : bundlesAround(sheet, s.inside)}
          carried={past ? () => STILL : carried}
          drag={drag && !past ? { of: drag, by: residual } : null}
          draw={drawn}
          hasOwn={(piece, member) => ownIn(piece, member) !== undefined}
          member={null}
        />
        {bare && <BareEdges pieceViews={pieceViews} by={carried} />}
        <Arriving />
        {!bare && <PageMarkup markup={stage.page.border} />}
        {searched && <SubjectOverlay mode={searched} />}
      </svg>
      <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-hidden" aria-hidden={mode?.kind !== 'breakout'}>
        <g transform={groupTransform(view)}>
          {hovered && dividedAround(s, hovered.piece)[0] && <DividedOutline view={dividedAround(s, hovered.piece)[0]} colour="var(--color-ink)" width={1} />}
          {hovered && dividedAround(s, hovered.piece).length === 0 && (
            <path d={seenPath(hovered)} fill={dropping ? 'var(--color-sea)' : 'none'} fillOpacity={0.35} stroke={dropping ? 'var(--color-sea)' : 'var(--color-ink)'} strokeWidth={dropping ? 3 : 1} vectorEffect="non-scaling-stroke" />
          )}
          {selected && !mode && !aboutParts && !(trying && selected.nodes >= BUSY) && (
            <path
              d={seenPath(selected)}
              transform={drag && drag.what !== 'fill' && drag.pane === null && drag.member === null ? matrix(residual) : undefined}
              fill="none"
              stroke="var(--color-rose)"
              strokeWidth={selected.nodes < BUSY ? 1.5 : 0.5}
              vectorEffect="non-scaling-stroke"
            />
          )}
          {divided.map((v, k) => (
            <g key={k} data-testid="chosen" transform={drag && drag.what !== 'fill' ? matrix(residual) : undefined}>
              <DividedOutline view={v} colour="var(--color-rose)" width={1.5} />
            </g>
          ))}
          {outlines.map(({ key, d, busy }) => (
            <path key={key} data-testid="chosen" d={d} transform={drag && drag.what !== 'fill' ? matrix(residual) : undefined} fill="none" stroke="var(--color-rose)" strokeWidth={busy ? 0.5 : 1.5} vectorEffect="non-scaling-stroke" />
          ))}
          {swept.map((p) => (
            <path key={p.piece} d={seenPath(p)} fill="none" stroke="var(--color-sea)" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
          ))}
          <PointedPlace />
          {s.sweep && (
            <rect data-testid="sweep" x={s.sweep[0]} y={s.sweep[1]} width={s.sweep[2] - s.sweep[0]} height={s.sweep[3] - s.sweep[1]} fill="var(--color-sea)" fillOpacity={0.08} stroke="var(--color-sea)" strokeDasharray="4 3" vectorEffect="non-scaling-stroke" />
          )}
          {mode?.kind === 'breakout' && <OverhangWashes mode={mode} />}
          {mode?.kind === 'breakout' && <BreakoutMarks mode={mode} />}
          {mode?.kind === 'breakout' && mode.tool === 'cut' && <Cuts mode={mode} locate={placeOf} />}
          {mode?.kind === 'cells' && <CellWashes mode={mode} />}
          {mode?.kind === 'pieces' && <PieceWashes mode={mode} />}
          {mode?.kind === 'draw' && <DrawOverlay mode={mode} />}
          {mode?.kind === 'brush' && <BrushOverlay mode={mode} />}
          {selected && !mode && s.forms.length > 0 && <HeldOutlines pieceView={selected} forms={s.forms} />}
          {bleed > 0 && <rect data-testid="cut" width={sheet.width} height={sheet.height} fill="none" stroke="var(--color-ink)" strokeWidth={1} strokeDasharray="6 5" vectorEffect="non-scaling-stroke" />}
          {!mode && <RegionLines />}
          {!past && <GuideLines />}
          <SnapLines />
        </g>
      </svg>
      <Rulers />
      {mode?.kind === 'trace' && <TraceOverlay mode={mode} locate={placeOf} />}
      <MemberHandles residual={residual} />
      <PaneHandles residual={residual} locate={placeOf} />
      {held && s.forms.length === 0 && ((!aboutParts) || held.pane || held.member !== undefined) && <GripHandles held={held} residual={residual} locate={placeOf} locked={locked} />}
      {selected && !mode && isFree(selected.piece) && showsFormHandles && !aboutParts && <FormHandles piece={selected.piece} beside={s.forms.length === 0} locate={placeOf} />}
      {held && !locked && !drag && !trying && s.open !== 'opening' && !aboutParts && <GripBar held={held} pieceView={selected ?? null} residual={residual} locate={placeOf} />}
      <GradientHandles locate={placeOf} />
      <OpenSideHandles locate={placeOf} />
      <PullHandles locate={placeOf} />
      <CarryHint />
      {s.inside !== null && !mode && <Inside bundle={s.inside} />}
      {!mode && <NotDrawn sheet={sheet} pieceViews={pieceViews} selected={selected} />}
      {!mode && <SwitchedOff sheet={sheet} pieceViews={pieceViews} />}
      {sheet.pieces.length === 0 && !mode && (
        <div
          className="pointer-events-none absolute flex items-center justify-center p-4 text-center"
          style={coverOf(view, sheet)}
        >
          <p className="max-w-sm rounded-lg bg-leaf/85 px-5 py-3 font-serif text-xl text-ink-soft">
            {s.looking ? 'An empty sheet.' : dropping ? 'Let go: the photo lies down here.' : 'An empty sheet. Take a word or a shape from the shelf at the left, or drop a photo here.'}
          </p>
        </div>
      )}
      <Uploads />
    </div>
  )
}

/** The outlines of what is held, so that a form is seen that a join takes away. */
function HeldOutlines({ pieceView, forms }: { pieceView: PieceView; forms: string[] }) {
  return pieceView.forms
    .filter((v) => forms.includes(v.form) && v.nodes < BUSY)
    .map((v) => <path key={v.form} d={v.outline} fill="none" stroke="var(--color-rose)" strokeWidth={1.5} strokeDasharray="5 4" vectorEffect="non-scaling-stroke" />)
}

/** The selected pieces that can be moved, if a point lies on the face of one of them. */
function heldAt(s: BenchState, point: Point): readonly string[] {
  const held = chosen(s).filter((p) => pieceOf(s, p)?.locked === false)
  const box = (p: string) => {
    const view = viewOf(s, p)
    return view ? seenBounds(s, view) : ([0, 0, 0, 0] as const)
  }
  return held.some((p) => insideQuad(box(p), point)) ? held : []
}

function insideQuad([l, t, r, b]: readonly [number, number, number, number], [x, y]: Point): boolean {
  return x >= l && x <= r && y >= t && y <= b
}

function pan(e: React.PointerEvent) {
  e.preventDefault()
  const start = bench.get().view
  const [x, y] = [e.clientX, e.clientY]
  const move = (m: PointerEvent) => bench.set({ view: { ...start, x: start.x + m.clientX - x, y: start.y + m.clientY - y } })
  const up = () => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', up)
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', up)
}


import { useEffect } from 'react'
import { giveKeysToSheet, usesKey } from '../../parts/focus'
import { NameField } from '../../parts/NameField'
import { leaveMode, useMode } from '../mode/mode'
import { ModeBar } from '../mode/ModeBar'
import { LengthField, PlainField } from '../recipe/fields'
import { viewOf, useBench } from '../state/store'
import { amend, breakoutMode, drawByKey, forgetUnmatched, isOut, keep, put, setReach, strokeBack, takeBack } from './choice'
import { changePart, cutAlong, heldPart } from './cuts'
import { EACH_PLACE, PlaceButtons } from './PlaceButtons'

const TOOLS = [
  ['parts', 'Parts', 'Click or sweep parts out and in'],
  ['edge', 'Along an edge', 'Only what lies against the edge that you click is let out'],
  ['cut', 'Cuts', 'Where what is out ends within the subject: drag across a part to cut it, drag a cut to move it'],
  ['out', 'Paint out', 'Lets the subject out wherever you paint'],
  ['in', 'Paint in', 'Keeps the subject in wherever you paint'],
  ['merge', 'Into the outline', 'A part becomes a contour of the opening, for flat shapes and for cutting'],
  ['reach', 'Reach line', 'A line beyond which nothing is let out: drag it, with Shift level or upright'],
] as const

export function BreakoutBar() {
  const mode = useMode('breakout')
  const overhangs = useBench((s) => viewOf(s, s.mode?.piece ?? null)?.overhangs) ?? []
  const crossings = useBench((s) => viewOf(s, s.mode?.piece ?? null)?.crossings?.length ?? 0)
  const unmatched = useBench((s) => viewOf(s, s.mode?.piece ?? null)?.unmatched?.length ?? 0)
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const now = breakoutMode()
      if (!now || usesKey(e.target, e.key)) return
      // first what is being drawn is dropped, by the next press the mode
      if (e.key === 'Escape' && (now.stroke || now.line)) amend({ stroke: null, line: null })
      else if (!drawByKey(e, (line) => (breakoutMode()?.tool === 'cut' ? cutAlong([line.from, line.to]) : setReach(line)))) return
      e.preventDefault()
      e.stopImmediatePropagation()
    }
    window.addEventListener('keydown', key, true)
    return () => window.removeEventListener('keydown', key, true)
  }, [])
  if (!mode) return null
  const out = overhangs.filter(isOut)
  const part = heldPart(overhangs, mode.part)
  const sentence =
    mode.tool === 'merge'
      ? 'Click a part, or sweep across several: each becomes a contour that is joined to the opening, always within the subject.'
      : mode.tool === 'edge'
      ? 'Click an edge: only what lies against it is let out; with Shift, that too.'
      : mode.tool === 'cut'
      ? 'Drag a line across a part to cut it in two; click the half that stays in. Drag a cut, or one of its ends, to move it. By key: arrows move, Space begins and ends a line.'
      : mode.tool === 'reach'
      ? 'Drag a line that nothing is to pass; with Shift it lies level or upright. By key: arrows move, Space begins and ends it.'
      : mode.tool !== 'parts'
        ? `Paint over the subject to ${mode.tool === 'out' ? 'let it out' : 'keep it in'}; with Alt the other way. Nothing but the subject is painted. By key: arrows move the brush, Space sets it down.`
        : crossings > 0 && out.length > 0
          ? `Click parts out and in. Where one crosses the edge, a click lets it run under or over. ${out.length} of ${overhangs.length} are out.`
          : overhangs.length === 0
      ? 'Nothing reaches over the edge. Move or scale the photo or the drawing until it does.'
      : `Click a part, or sweep across several, to let it out over the edge; again to keep it in. ${out.length} of ${overhangs.length} are out.`
  const cut = out.some((o) => o.cut_off)
  return (
    <ModeBar
      title="Breakout"
      sentence={cut ? 'A part that is out (dashed) is cut off by the end of the photo, and shows a straight cut. Keep it in, or hide its end behind something.' : sentence}
      alarm={cut}
      canKeep={mode.edits.length > 0}
      onKeep={() => void keep()}
      onDrop={() => leaveMode()}
      onBack={takeBack}
      canGoBack={mode.past.length > 0}
    >
      <div className="flex w-full flex-wrap items-end gap-2">
        <div className="flex gap-1" role="group" aria-label="What a press does">
          {TOOLS.map(([tool, text, title]) => (
            <button
              key={tool}
              className={`outlined py-0.5 text-[13.5px] whitespace-nowrap ${mode.tool === tool ? 'bg-ink text-leaf' : ''}`}
              aria-pressed={mode.tool === tool}
              title={title}
              onClick={() => {
                amend({ tool, stroke: null, line: null, cursor: null })
                // what is drawn next can be drawn by keys
                if (tool === 'out' || tool === 'in' || tool === 'reach' || tool === 'cut') giveKeysToSheet()
              }}
            >
              {text}
            </button>
          ))}
        </div>
        {(mode.tool === 'out' || mode.tool === 'in') && (
          <div className="w-24">
            <PlainField label="Brush, px" value={mode.width} digits={0} min={2} max={1000} onChange={(width) => amend({ width })} />
          </div>
        )}
        {mode.tool === 'merge' && (
          <>
            <div className="w-24">
              <LengthField label="Tolerance" value={mode.tolerance} step={0.1} least={0.01} onChange={(tolerance) => amend({ tolerance })} />
            </div>
            <div className="w-24">
              <LengthField label="Smoothing" value={mode.smooth} step={0.1} least={0} onChange={(smooth) => amend({ smooth })} />
            </div>
          </>
        )}
        {part && (mode.tool === 'parts' || mode.tool === 'cut') && (
          <NameField key={`${part.anchor.x} ${part.anchor.y}`} label="Name of the part" free className="w-40" name={part.name ?? ''} onChange={(name) => changePart(part.anchor, { what: 'name', name })} />
        )}
        {part && mode.tool === 'cut' && (
          <div className="w-28">
            <PlainField label="Soft edge, px" value={part.soft ?? 0} digits={0} min={0} max={4000} onChange={(width) => changePart(part.anchor, { what: 'soften', width })} />
          </div>
        )}
        {mode.painted.length > 0 && (mode.tool === 'out' || mode.tool === 'in') && (
          <button className="plain" onClick={strokeBack}>
            Last paint back
          </button>
        )}
        {mode.reach && mode.tool === 'reach' && (
          <button className="plain" onClick={() => setReach(null)}>
            No reach line
          </button>
        )}
      </div>
      <div className="flex items-center gap-1" role="group" aria-label="Let out everything that lies">
        <span className="tag mr-1">Everything</span>
        <PlaceButtons
          groups={EACH_PLACE}
          overhangs={overhangs}
          title={(_, out) => (out ? 'All of it is out: keep it in' : 'Let it out')}
          onPress={(places, out) => put(overhangs.filter((o) => places.includes(o.place)), out)}
        />
      </div>
      <button className="outlined" disabled={out.length === 0} onClick={() => put(overhangs, false)}>
        Keep all in
      </button>
      {unmatched > 0 && (
        <button className="plain text-[13.5px]" title="They were let out, but nothing reaches over the edge there any more" onClick={forgetUnmatched}>
          {unmatched === 1 ? 'One part is gone: forget it' : `${unmatched} parts are gone: forget them`}
        </button>
      )}
    </ModeBar>
  )
}

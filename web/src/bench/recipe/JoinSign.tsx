import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useEffect, useRef, type RefObject } from 'react'
import type { Form } from '../../types/Form'
import { attempt, forget } from '../edits'
import { change, formLabel, joinSign, JOINS } from '../forms'

/** How a form acts on what stands before it. A choice is seen on the sheet before it is made. */
export function JoinSign({ piece, form }: { piece: string; form: Form }) {
  const now = joinSign(form.join)
  const chosen = useRef(false)
  return (
    <Menu>
      <MenuButton
        className="flex h-9 w-9 shrink-0 items-center justify-center rounded-full border-[1.5px] border-transparent font-serif text-[24px] leading-none text-ink hover:border-ink data-open:border-ink data-open:bg-ink data-open:text-leaf"
        aria-label={`Join of “${formLabel(form)}”: ${now?.label ?? ''}`}
        title={`${now?.label ?? ''}: click to choose another join`}
        onClick={() => {
          chosen.current = false
        }}
      >
        {now?.sign}
      </MenuButton>
      <MenuItems
        anchor={{ to: 'top', gap: 10 }}
        className="z-30 w-[280px] rounded-xl border-[1.5px] border-ink bg-paper p-1.5 shadow-sheet focus:outline-none"
      >
        <ForgetOnClose chosen={chosen} />
        {JOINS.map((j) => (
          <MenuItem key={j.join}>
            {({ focus }) => (
              <button
                className={`flex w-full items-center gap-3 rounded-lg px-2.5 py-1.5 text-left ${focus ? 'bg-ink text-leaf' : ''}`}
                aria-current={j.join === form.join}
                onClick={() => {
                  chosen.current = true
                  void change(piece, { change: 'set_join', form: form.id, join: j.join }).finally(forget)
                }}
              >
                <TryWhile on={focus} piece={piece} form={form} join={j.join} />
                <span className="w-6 text-center font-serif text-[24px] leading-none" aria-hidden>
                  {j.sign}
                </span>
                <span>
                  <span className="block leading-tight font-semibold">{j.label}</span>
                  <span className="block text-[12.5px] leading-tight opacity-80">{j.sentence}</span>
                </span>
              </button>
            )}
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}

function TryWhile({ on, piece, form, join }: { on: boolean; piece: string; form: Form; join: Form['join'] }) {
  const id = form.id
  useEffect(() => {
    if (on) attempt([{ edit: 'opening', piece, change: 'set_join', form: id, join }])
  }, [on, piece, id, join])
  return null
}

function ForgetOnClose({ chosen }: { chosen: RefObject<boolean> }) {
  useEffect(
    () => () => {
      if (!chosen.current) forget()
    },
    [chosen],
  )
  return null
}

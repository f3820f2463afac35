import type { Form } from '../../types/Form'

/** Every form, lists before what they hold. */
export function allForms(forms: Form[]): Form[] {
  return forms.flatMap((f) => (f.shape.kind === 'list' ? [f, ...allForms(f.shape.forms)] : [f]))
}

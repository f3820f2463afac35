//! A window: an opening, what shows through it, and what reaches over its edge.

use super::{
    Breakout, Fill, FillId, FillPaint, Finish, Form, FormId, FormShape, Lettering, Members, PanePath, PhotoFill,
    PhotoId, PieceId, Placement, Repeat, Split, Tone,
};
use kurbo::{Affine, Point};
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;
use ts_rs::TS;

/// A piece made of an opening, fills and a breakout.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Window {
    pub opening: Opening,
    /// What shows through, from back to front.
    pub fills: Vec<Fill>,
    #[serde(default)]
    pub breakout: Breakout,
    #[serde(default, skip_serializing_if = "Finish::is_plain")]
    pub finish: Finish,
    /// The panes that it falls into.
    #[serde(default, skip_serializing_if = "Split::is_none")]
    #[ts(optional, as = "Option<Split>")]
    pub split: Split,
    /// It is shown several times.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub repeat: Option<Box<Repeat>>,
    /// Words of its own in members of the nearest repeated bundle around it.
    #[serde(default, skip_serializing_if = "Members::is_none")]
    #[ts(optional, as = "Option<Members<MemberWord>>")]
    pub bundle_words: Members<MemberWord>,
}

/// A word in one member of a repeated bundle, in place of the text of a window's lettering.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct MemberWord {
    /// Counted from 0, as the layout of the bundle counts.
    pub member: u32,
    pub word: String,
}

/// The compound outline of a window, as the list of forms it is computed from.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, TS)]
pub struct Opening {
    /// In the order in which they are joined.
    pub forms: Vec<Form>,
    /// Cells that were taken in or left out by hand, whatever the joins say.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub cells: Vec<CellChoice>,
    /// The joined outline grown by this many millimetres; shrunk where it is negative.
    #[serde(default)]
    pub grow: f64,
    /// Radius of its corners in millimetres.
    #[serde(default)]
    pub rounding: f64,
    /// Sides at which nothing is cut.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<OpenSide>>")]
    pub open: Vec<OpenSide>,
    /// How far the outline may stray to get by with fewer nodes, in millimetres.
    #[serde(default)]
    pub simplify: f64,
}

/// A stretch of a side across which nothing is cut: the opening is extended there, in line with its outermost points.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct OpenSide {
    pub side: Side,
    /// Where the stretch begins and ends, in shares of the opening's width or height, from the left or from the top.
    pub from: f64,
    pub to: f64,
    /// How far it reaches beyond the opening, in millimetres.
    pub far: f64,
}

/// A side of an opening, upright on the sheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Side {
    Top,
    Right,
    Bottom,
    Left,
}

/// A cell's own state. A cell is known by the forms that cover it, so that the choice lives on when they move.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
pub struct CellChoice {
    /// The forms of the opening's own list that cover it, in the order of their identifiers.
    pub cover: Vec<FormId>,
    pub taken: bool,
}

impl Window {
    /// A photo that lies on the sheet whole: nothing masks it. Its fill is named after the piece.
    pub fn picture(piece: PieceId, photo: PhotoId, placement: Placement) -> Self {
        let paint = FillPaint::Photo(PhotoFill { photo, placement, tone: Tone::default(), shared: None, alone: false });
        Self {
            opening: Opening::default(),
            fills: vec![Fill::new(FillId(piece.0).copied_within(piece.0), paint)],
            breakout: Breakout::default(),
            finish: Finish::default(),
            split: Split::default(),
            repeat: None,
            bundle_words: Members::default(),
        }
    }

    /// Whether a form limits what is seen. Without one (or with all of them switched off) pictures are seen whole.
    pub fn is_masked(&self) -> bool {
        self.opening.forms.iter().any(|f| !f.off)
    }

    /// Whether something is seen of it without a mask.
    pub fn has_whole(&self) -> bool {
        let whole = |f: &Fill| matches!(f.paint, FillPaint::Photo(_) | FillPaint::Drawing(_) | FillPaint::Form(_));
        self.fills.iter().any(|f| !f.off && f.is_common() && whole(f))
    }

    /// The window as one of its panes shows it: with the fills of that pane, if it has any of its own, else with those of the whole.
    pub fn in_pane(&self, pane: &PanePath) -> Self {
        let own = self.has_own_fills(pane);
        let seen = |f: &&Fill| if own { f.pane.as_ref() == Some(pane) } else { f.pane.is_none() };
        Self { fills: self.fills.iter().filter(seen).cloned().collect(), ..self.clone() }
    }

    /// The window as one of its members shows it: with the fills and the word of that one, if it has any of its own, else with those of all.
    pub fn in_member(&self, member: u32) -> Self {
        let own = self.fills.iter().any(|f| !f.off && f.member == Some(member));
        let seen = |f: &&Fill| if own { f.member == Some(member) } else { f.member.is_none() };
        let mut window = Self { fills: self.fills.iter().filter(seen).cloned().collect(), ..self.clone() };
        if let Some(word) = self.repeat.as_ref().and_then(|r| r.look(member)).and_then(|look| look.word.as_ref()) {
            window.say(word);
        }
        window
    }

    /// The window as one member of the repeated bundle around it shows it: with the fills and the word of that one, if it has any of its own, else
    /// with those of all. It has nothing for other members any more.
    pub fn in_bundle_member(&self, member: u32) -> Self {
        let own: Vec<Fill> = self.fills.iter().filter(|f| f.bundle_member == Some(member)).cloned().collect();
        let mut window = self.in_any_bundle_member();
        if own.iter().any(|f| !f.off) {
            window.fills = own.into_iter().map(|f| Fill { bundle_member: None, ..f }).collect();
        }
        if let Some(own) = self.bundle_word(member) {
            window.say(own);
        }
        window
    }

    /// The same in a bundle whose photos run behind all members, for the member that lies at `at` (from where the bundle lies; sheet space): its opening
    /// goes there, and its fills stay where they are. So in the member's own space they are moved back. A photo of the member's own is not seen. What is
    /// given to the member besides goes with the opening, and what has no mask goes along whole.
    pub fn in_bundle_member_behind(&self, member: u32, at: Affine) -> Self {
        if !self.is_masked() {
            return self.in_bundle_member(member);
        }
        let given = |f: &Fill| f.bundle_member == Some(member) && !f.off && !matches!(f.paint, FillPaint::Photo(_));
        let has_own = self.fills.iter().any(given);
        let fills = self.fills.iter().filter(|f| f.bundle_member.is_none() || given(f)).cloned().collect();
        let mut window = Self { fills, ..self.clone() }.in_bundle_member(member);
        let back = at.inverse();
        for fill in &mut window.fills {
            if has_own {
                fill.follows_opening = true;
            } else if !fill.follows_opening {
                // a window that cannot be laid so goes along
                fill.transform(back);
            }
        }
        for end in window.breakout.reach.iter_mut().flat_map(|line| [&mut line.from, &mut line.to]) {
            let p = back * Point::new(end[0], end[1]);
            *end = [p.x, p.y];
        }
        window
    }

    /// The window as those members of the repeated bundle around it show it that have nothing of their own.
    pub fn in_any_bundle_member(&self) -> Self {
        let fills = self.fills.iter().filter(|f| f.bundle_member.is_none()).cloned().collect();
        Self { fills, bundle_words: Members::default(), ..self.clone() }
    }

    /// Its word in one member of the repeated bundle around it, if that is one of its own.
    pub fn bundle_word(&self, member: u32) -> Option<&str> {
        self.bundle_words.values().find(|own| own.member == member).map(|own| own.word.as_str())
    }

    /// Whether it may have another outline there than in the other members.
    pub fn is_reshaped_in_bundle_member(&self, member: u32) -> bool {
        let shows_own = self.fills.iter().any(|f| !f.off && f.bundle_member == Some(member));
        self.bundle_word(member).is_some() || (shows_own && !self.is_masked())
    }

    /// The members of the repeated bundle around it in which it has something of its own, in their order.
    pub fn own_bundle_members(&self) -> BTreeSet<u32> {
        let fills = self.fills.iter().filter(|f| !f.off).filter_map(|f| f.bundle_member);
        fills.chain(self.bundle_words.values().map(|own| own.member)).collect()
    }

    /// Takes away what it has for members of a bundle from this one on.
    pub(crate) fn keep_bundle_members(&mut self, count: u32) {
        let gone = |fill: &Fill| fill.bundle_member.is_some_and(|member| member >= count);
        let lost: Vec<FillId> = self.fills.iter().filter(|f| gone(f)).map(|f| f.id).collect();
        self.fills.retain(|f| !lost.contains(&f.id));
        self.breakout.retain(|fill, _| !lost.contains(&fill));
        self.bundle_words.retain(|own| own.member < count);
    }

    /// Sets its first lettering in these words.
    fn say(&mut self, word: &str) {
        let lettering = self.opening.forms.iter_mut().find_map(|f| match &mut f.shape {
            FormShape::Lettering(lettering) => Some(lettering),
            _ => None,
        });
        if let Some(lettering) = lettering {
            word.clone_into(&mut lettering.text);
        }
    }

    /// Whether a pane shows fills of its own.
    pub fn has_own_fills(&self, pane: &PanePath) -> bool {
        self.fills.iter().any(|f| !f.off && f.pane.as_ref() == Some(pane))
    }

    /// A name after its lettering, or after its first form.
    pub fn label(&self) -> String {
        let forms = &self.opening.forms;
        let first = forms.iter().find(|f| matches!(f.shape, FormShape::Lettering(_))).or(forms.first());
        first.map_or("Picture".into(), Form::label)
    }

    /// The lettering of a form.
    pub fn lettering(&self, id: FormId) -> Option<&Lettering> {
        match &self.opening.form(id)?.shape {
            FormShape::Lettering(l) => Some(l),
            _ => None,
        }
    }

    /// A fill by its identifier.
    pub fn fill(&self, id: FillId) -> Option<&Fill> {
        self.fills.iter().find(|f| f.id == id)
    }

    /// The same, to be changed.
    pub fn fill_mut(&mut self, id: FillId) -> Option<&mut Fill> {
        self.fills.iter_mut().find(|f| f.id == id)
    }

    /// The forms of the opening and those that fill it; lists without what they hold.
    pub fn forms(&self) -> impl Iterator<Item = &Form> {
        self.opening.forms.iter().chain(self.filling_forms())
    }

    /// A form of the opening, lists included, or one that fills it; to be changed.
    pub fn form_mut(&mut self, id: FormId) -> Option<&mut Form> {
        if self.opening.form(id).is_some() { self.opening.form_mut(id) } else { self.filling_form_mut(id) }
    }

    /// A form that fills it, to be changed.
    pub fn filling_form_mut(&mut self, id: FormId) -> Option<&mut Form> {
        self.fills.iter_mut().find_map(|f| match &mut f.paint {
            FillPaint::Form(form) if form.form.id == id => Some(&mut form.form),
            _ => None,
        })
    }

    /// The forms that fill it.
    pub fn filling_forms(&self) -> impl Iterator<Item = &Form> {
        self.fills.iter().filter_map(|f| match &f.paint {
            FillPaint::Form(form) => Some(&form.form),
            _ => None,
        })
    }

    /// Whether both show one and the same photo between them.
    pub fn shares_photo_with(&self, other: &Window) -> bool {
        self.photos().any(|(_, own)| other.photos().any(|(_, p)| p.is_one_with(own)))
    }

    /// Whether a photo of another window lies behind this one too, and is seen there.
    pub fn shows(&self, photo: &PhotoFill) -> bool {
        let seen = self.fills.iter().filter(|f| !f.off);
        seen.into_iter().any(|f| matches!(&f.paint, FillPaint::Photo(p) if p.is_one_with(photo)))
    }

    /// The photo fills, from back to front.
    pub fn photos(&self) -> impl Iterator<Item = (FillId, &PhotoFill)> {
        self.fills.iter().filter_map(|f| match &f.paint {
            FillPaint::Photo(p) => Some((f.id, p)),
            _ => None,
        })
    }
}

impl Opening {
    /// A form of the list or of a list within it.
    pub fn form(&self, id: FormId) -> Option<&Form> {
        find(&self.forms, id)
    }

    /// A form by its identifier, lists included, to be changed.
    pub fn form_mut(&mut self, id: FormId) -> Option<&mut Form> {
        find_mut(&mut self.forms, id)
    }

    /// The list that holds a form, and its place there.
    pub fn place_mut(&mut self, id: FormId) -> Option<(&mut Vec<Form>, usize)> {
        place_mut(&mut self.forms, id)
    }

    /// Every form, lists before what they hold.
    pub fn all(&self) -> Vec<&Form> {
        let mut all = Vec::new();
        gather(&self.forms, &mut all);
        all
    }
}

fn find(forms: &[Form], id: FormId) -> Option<&Form> {
    forms.iter().find_map(|f| match &f.shape {
        _ if f.id == id => Some(f),
        FormShape::List { forms } => find(forms, id),
        _ => None,
    })
}

fn find_mut(forms: &mut [Form], id: FormId) -> Option<&mut Form> {
    for form in forms {
        if form.id == id {
            return Some(form);
        }
        if let FormShape::List { forms } = &mut form.shape
            && let Some(found) = find_mut(forms, id)
        {
            return Some(found);
        }
    }
    None
}

fn place_mut(forms: &mut Vec<Form>, id: FormId) -> Option<(&mut Vec<Form>, usize)> {
    if let Some(at) = forms.iter().position(|f| f.id == id) {
        return Some((forms, at));
    }
    forms.iter_mut().find_map(|f| match &mut f.shape {
        FormShape::List { forms } => place_mut(forms, id),
        _ => None,
    })
}

fn gather<'a>(forms: &'a [Form], all: &mut Vec<&'a Form>) {
    for form in forms {
        all.push(form);
        if let FormShape::List { forms } = &form.shape {
            gather(forms, all);
        }
    }
}

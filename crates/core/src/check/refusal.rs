//! Why something is not taken, as a sentence for a person.

use crate::cutout::CutoutError;
use crate::outline::OutlineError;
use crate::sheet::limits;

/// Why a sheet, or an edit of one, is not taken.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum Refusal {
    #[error("That piece is no longer on the sheet.")]
    NoPiece,
    #[error("That part of the piece is no longer there.")]
    NoPart,
    #[error("That bundle is no longer on the sheet.")]
    NoBundle,
    #[error("A bundle cannot lie in itself.")]
    BundleInItself,
    #[error("Bundles lie in one another up to {} deep.", limits::BUNDLES_DEEP)]
    BundlesTooDeep,
    #[error("This photo is not here. Bring it in again.")]
    NoPhoto,
    #[error("That ink is no longer among the inks of the sheet.")]
    NoInk,
    #[error("An ink is mixed from colours, not from other inks.")]
    InkOfInks,
    #[error("A sheet holds up to {} inks.", limits::INKS)]
    TooManyInks,
    #[error("Up to {} findings are waved through on a sheet. Mend some of them.", limits::WAVED)]
    TooManyWaved,
    #[error("A gradient has between 2 and {} stops, one after the other from 0 to 100 %.", limits::STOPS)]
    Stops,
    #[error("A window cannot show through itself.")]
    WithinItself,
    #[error("A window that shows another one cannot be slanted or mirrored, nor scaled unevenly.")]
    ShownWindow,
    #[error("A window holds up to {} fills.", limits::FILLS)]
    TooManyFills,
    #[error("Up to {} parts of a drawing can look other than they came, each of them once.", limits::LOOKS)]
    Looks,
    #[error("A window has up to {} rims and {} shadows.", limits::RIMS, limits::SHADOWS)]
    TooMuchFinish,
    #[error("A sheet has between 1 and {} columns, and as many rows.", limits::COLUMNS)]
    Columns,
    #[error("No room is left between the margins of the sheet. Make margins or gaps smaller.")]
    NoRoomBetweenMargins,
    #[error("A sheet has up to {} guides.", limits::GUIDES)]
    TooManyGuides,
    #[error("The shadow of a bundle falls behind it, not into it.")]
    BundleShadow,
    #[error(transparent)]
    Hints(#[from] CutoutError),
    #[error("A photo has up to {} subjects.", limits::SUBJECTS)]
    TooManySubjects,
    #[error("This subject is not here. Find it again.")]
    NoSubject,
    #[error("“{0}” is locked. Unlock it in the stack first.")]
    Locked(String),
    #[error("The word is empty. Type at least one letter.")]
    EmptyWord,
    #[error(transparent)]
    Outline(#[from] OutlineError),
    #[error("An opening needs at least one form. Remove the window instead.")]
    LastForm,
    #[error("Nothing is left of this opening. Change a join first.")]
    NothingLeft,
    #[error("An opening holds up to {} forms.", limits::FORMS)]
    TooManyForms,
    #[error("An opening holds up to {} nodes of its own. Simplify it first.", limits::NODES)]
    TooManyNodes,
    #[error("A brush stroke has up to {} places. Lift the brush now and then.", limits::STROKE_POINTS)]
    LongStroke,
    #[error("An opening holds up to {} places of the brush. Bake what is painted.", limits::BRUSH_POINTS)]
    TooManyStrokes,
    #[error("This part is too thin to become an outline with this tolerance and smoothing. Take less of them.")]
    TooThin,
    #[error("This line does not cut the part in two. Let it run all the way across, from one edge to the other.")]
    UncutPart,
    #[error("This line does not cut in two what it is drawn on. Draw it across, from one edge to the other.")]
    UncutWindow,
    #[error(
        "A line that splits must not cross itself, nor turn back on itself, also where it runs on beyond its ends."
    )]
    CrossedLine,
    #[error("A window or a bundle falls into up to {} panes.", limits::PANES)]
    TooManyPanes,
    #[error("A line that splits has between 2 and {} points, each away from the one before it.", limits::SPLIT_POINTS)]
    SplitPoints,
    #[error("A zigzag has between 1 and {} teeth.", limits::TEETH)]
    Teeth,
    #[error(
        "A window or a bundle is shown between 1 and {} times, and up to {} members have words of their own.",
        limits::MEMBERS,
        limits::MEMBER_WORDS
    )]
    Members,
    #[error("There are fewer members than that. Raise their count first.")]
    NoMember,
    #[error("In a repeated bundle, words are given to the windows in it: there is none for a member as a whole.")]
    BundleMember,
    #[error(
        "The panes of this bundle run across members of something repeated in it. Set those free, or join the panes, before it is dissolved."
    )]
    DissolvedMembers,
    #[error(
        "The panes of this bundle run across a window with panes of another gap, or with rims or fills of their own. Join either, before it is dissolved."
    )]
    DissolvedPanes,
    #[error("One photo can run behind up to {} openings of repeated bundles on a sheet.", limits::OPENINGS_BEHIND)]
    OpeningsBehind,
    #[error("A line along which members lie has between 2 and {} points, and some length.", limits::LAYOUT_POINTS)]
    LayoutLine,
    #[error("That pane is no longer there.")]
    NoPane,
    #[error("The parts of a subject that are let out or named here are too many, or too winding.")]
    TooManyParts,
    #[error("An opening has up to {} open sides.", limits::OPEN_SIDES)]
    OpenSides,
    #[error("Lists lie in one another up to {} deep.", limits::LISTS_DEEP)]
    TooDeep,
    #[error("A sheet holds up to {} characters of type.", limits::CHARACTERS)]
    TooMuchType,
    #[error("A sheet holds up to {} pieces.", limits::PIECES)]
    TooManyPieces,
    #[error("A name has up to {} characters.", limits::NAME)]
    LongName,
    #[error("A sheet needs a name.")]
    NoName,
    #[error("A sheet's side is between 1 mm and 5 m.")]
    SheetSize,
    #[error(
        "At this resolution the sheet, its bleed included, would have more than a gigapixel. Take a smaller size or fewer ppi."
    )]
    SheetPixels,
    #[error("The resolution is between 1 and 2400 ppi.")]
    Resolution,
    #[error("{0} is not a number that can be used here.")]
    Number(&'static str),
    #[error("What was to be changed is no longer as it was. Do it again.")]
    Misfit,
    #[error("Up to {} members of a thing are changed at once.", limits::CHANGES)]
    TooManyChanges,
    #[error("This file says of itself what cannot be: {0}.")]
    Inconsistent(&'static str),
}

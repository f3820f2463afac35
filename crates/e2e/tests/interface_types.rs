//! The types that the interface is written in are written here; `./test` says so if they changed.

use inky_core::edit::{Amended, OpeningChange};
use inky_core::handles::CellView;
use inky_core::palette::InkProposal;
use inky_core::placements::PlacementProposal;
use inky_server::StockEntry;
use inky_server::types::{
    AccountView, Bench, BenchChange, DraftView, DrawingCard, EdgeRequest, EditRequest, EntryView, FontCard, Invitation,
    JobCard, LinkSaid, Made, MembersView, NewSheet, News, PasswordChange, PasswordChoice, PastSheet, PhotoCard,
    PhotoEdge, PressCard, ProofView, Selected, Sentence, SheetCard, SignInRequest, StepRequest, StepView, StockTaken,
    Tentative, TentativeRequest, TokenSaid,
};
use ts_rs::{Config, TS};

/// Writes a type with all that it is made of.
fn write<T: TS + 'static>() {
    T::export_all(&Config::from_env()).unwrap();
}

#[test]
fn types_are_written() {
    write::<AccountView>();
    write::<Amended>();
    write::<Invitation>();
    write::<LinkSaid>();
    write::<MembersView>();
    write::<PasswordChange>();
    write::<PasswordChoice>();
    write::<SignInRequest>();
    write::<Bench>();
    write::<BenchChange>();
    write::<CellView>();
    write::<DraftView>();
    write::<DrawingCard>();
    write::<EdgeRequest>();
    write::<EditRequest>();
    write::<EntryView>();
    write::<FontCard>();
    write::<JobCard>();
    write::<Made>();
    write::<NewSheet>();
    write::<OpeningChange>();
    write::<PastSheet>();
    write::<PhotoCard>();
    write::<PhotoEdge>();
    write::<PlacementProposal>();
    write::<InkProposal>();
    write::<PressCard>();
    write::<ProofView>();
    write::<News>();
    write::<Selected>();
    write::<Sentence>();
    write::<SheetCard>();
    write::<StepRequest>();
    write::<StepView>();
    write::<StockEntry>();
    write::<StockTaken>();
    write::<Tentative>();
    write::<TentativeRequest>();
    write::<TokenSaid>();
}

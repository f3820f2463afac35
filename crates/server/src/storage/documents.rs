//! Documents in parts, by the hash of their content.
//!
//! A document is a tree: a root, which lists the header and the lists of pieces; lists of up to [`FAN`] pieces; pieces and header as JSON. So a
//! step costs what it changes, and what two documents share is kept once. Compare Merkle, *A Digital Signature Based on a Conventional Encryption
//! Function*, CRYPTO '87.

use super::{Store, StoreError};
use inky_core::sheet::Sheet;
use sha2::{Digest, Sha256};
use sqlx::{MySqlConnection, QueryBuilder, Row};
use std::collections::{HashMap, HashSet};
use std::sync::Arc;

/// Pieces in one list.
const FAN: usize = 32;
/// Bytes of one statement that writes parts.
const STATEMENT: usize = 2 << 20;
/// Parts of one statement that reads them.
const ASKED: usize = 500;

/// The name of a part: the first half of the SHA-256 of its bytes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct PartId([u8; 16]);

impl PartId {
    fn of(bytes: &[u8]) -> Self {
        let mut id = [0; 16];
        id.copy_from_slice(&Sha256::digest(bytes)[..16]);
        Self(id)
    }

    pub(super) fn bytes(&self) -> &[u8] {
        &self.0
    }

    /// # Errors
    /// Bytes that are no name of a part.
    pub(super) fn read(bytes: &[u8]) -> Result<Self, StoreError> {
        bytes.try_into().map(Self).map_err(|_| StoreError::Incomplete("part".into()))
    }
}

/// The parts of a document by their names.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Tree {
    root: PartId,
    header: PartId,
    lists: Vec<PartId>,
    /// One for each piece, from back to front.
    pieces: Vec<PartId>,
}

/// A part that is not kept yet.
struct NewPart {
    id: PartId,
    bytes: Vec<u8>,
}

/// A document, ready to be kept.
pub struct Document {
    pub tree: Arc<Tree>,
    new: Vec<NewPart>,
}

impl Tree {
    pub fn root(&self) -> PartId {
        self.root
    }

    /// About how many bytes of memory it takes.
    pub fn size(&self) -> u64 {
        (self.pieces.len() * 17 + 64) as u64
    }
}

impl Document {
    /// A document with its parts. What it shares with `known`, which is kept already, is neither written nor hashed again.
    ///
    /// # Errors
    /// A sheet that cannot be written as JSON.
    pub fn of(sheet: &Sheet, known: Option<(&Sheet, &Tree)>) -> Result<Self, StoreError> {
        let mut new = Vec::new();
        let mut add = |bytes: Vec<u8>| {
            let id = PartId::of(&bytes);
            new.push(NewPart { id, bytes });
            id
        };
        let header = sheet.header();
        let header = match known {
            Some((before, tree)) if before.header() == header => tree.header,
            _ => add(serde_json::to_vec(&header)?),
        };
        let mut at = HashMap::new();
        if let Some((before, tree)) = known {
            at.extend(before.pieces.iter().zip(&tree.pieces).map(|(piece, id)| (piece.id, (piece, *id))));
        }
        let mut pieces = Vec::with_capacity(sheet.pieces.len());
        for piece in &sheet.pieces {
            pieces.push(match at.get(&piece.id) {
                Some((before, id)) if *before == piece => *id,
                _ => add(serde_json::to_vec(piece)?),
            });
        }
        let list = |ids: &[PartId]| ids.iter().flat_map(|id| id.0).collect::<Vec<u8>>();
        let lists: Vec<PartId> = pieces.chunks(FAN).map(|ids| add(list(ids))).collect();
        let root = add([&header.0[..], &list(&lists)].concat());
        if let Some((_, tree)) = known {
            let kept: HashSet<PartId> = tree.lists.iter().copied().collect();
            new.retain(|part| !kept.contains(&part.id) && part.id != tree.root);
        }
        Ok(Self { tree: Arc::new(Tree { root, header, lists, pieces }), new })
    }
}

impl Store {
    /// Keeps the parts of a document. Nothing refers to them yet.
    pub(super) async fn put_document(&self, document: &Document) -> Result<(), StoreError> {
        self.room.for_edit()?;
        let mut rest = &document.new[..];
        while !rest.is_empty() {
            let mut bytes = 0;
            let fits = rest.iter().take_while(|part| {
                bytes += part.bytes.len();
                bytes <= STATEMENT
            });
            let (now, later) = rest.split_at(fits.count().max(1));
            let mut sql = QueryBuilder::new("INSERT INTO parts (hash, bytes) ");
            sql.push_values(now, |mut row, part| {
                row.push_bind(part.id.bytes()).push_bind(&part.bytes[..]);
            });
            // nothing that is to be kept now is swept
            sql.push(" ON DUPLICATE KEY UPDATE used = CURRENT_TIMESTAMP(3)");
            sql.build().execute(&self.pool).await?;
            rest = later;
        }
        Ok(())
    }

    /// The document of a root.
    ///
    /// # Errors
    /// Parts that are missing, or are no JSON of a sheet.
    pub async fn document(&self, root: PartId) -> Result<(Sheet, Tree), StoreError> {
        let mut connection = self.pool.acquire().await?;
        let mut one = parts(&mut connection, &[root]).await?;
        let named = one.remove(&root).ok_or_else(|| missing(root))?;
        let (header, lists) = match read_names(&named)?.split_first() {
            Some((header, lists)) => (*header, lists.to_vec()),
            None => return Err(missing(root)),
        };
        let listed = parts(&mut connection, &lists).await?;
        let mut pieces = Vec::new();
        for list in &lists {
            pieces.extend(read_names(listed.get(list).ok_or_else(|| missing(*list))?)?);
        }
        let all = [&[header], &pieces[..]].concat();
        let found = parts(&mut connection, &all).await?;
        let bytes = |id: &PartId| found.get(id).ok_or_else(|| missing(*id));
        let mut sheet: Sheet = serde_json::from_slice(bytes(&header)?)?;
        for id in &pieces {
            sheet.pieces.push(serde_json::from_slice(bytes(id)?)?);
        }
        Ok((sheet, Tree { root, header, lists, pieces }))
    }
}

/// The names that a root or a list consists of.
pub(super) fn read_names(bytes: &[u8]) -> Result<Vec<PartId>, StoreError> {
    bytes.chunks(16).map(PartId::read).collect()
}

fn missing(part: PartId) -> StoreError {
    StoreError::Incomplete(hex::encode(part.0))
}

/// The bytes of parts, of those that are there.
pub(super) async fn parts(
    connection: &mut MySqlConnection,
    ids: &[PartId],
) -> Result<HashMap<PartId, Vec<u8>>, StoreError> {
    let mut found = HashMap::new();
    for some in ids.chunks(ASKED) {
        let mut sql = QueryBuilder::new("SELECT hash, bytes FROM parts WHERE hash IN (");
        let mut list = sql.separated(", ");
        some.iter().for_each(|id| {
            list.push_bind(id.bytes());
        });
        sql.push(")");
        for row in sql.build().fetch_all(&mut *connection).await? {
            found.insert(PartId::read(row.try_get(0)?)?, row.try_get(1)?);
        }
    }
    Ok(found)
}

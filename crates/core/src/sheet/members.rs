//! Lists whose members have identifiers, so that two hands can change, remove and reorder them at once.

use super::MemberId;
use serde::{Deserialize, Deserializer, Serialize};
use std::collections::{HashMap, HashSet};
use std::ops::{Deref, DerefMut};
use ts_rs::{Config, TS, TypeVisitor};
use uuid::Uuid;

/// A member of a list, and what it is called in that list.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Member<T> {
    pub id: MemberId,
    #[serde(flatten)]
    pub value: T,
}

/// A list of named members, in order. No two of one list have the same identifier.
///
/// Members that are read or added without an identifier get one that follows from what they are (UUID version 5, RFC 9562): the same member
/// read twice is the same. Sheets of earlier versions have none.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[serde(transparent)]
pub struct Members<T>(Vec<Member<T>>);

/// A member as it is read.
#[derive(Deserialize)]
struct Read<T> {
    #[serde(default)]
    id: Option<MemberId>,
    #[serde(flatten)]
    value: T,
}

impl<T: Serialize> Members<T> {
    fn named(all: Vec<Read<T>>) -> Self {
        let given: Vec<Option<MemberId>> = all.iter().map(|m| m.id).collect();
        let mut used: HashSet<MemberId> = HashSet::new();
        let first: Vec<Option<MemberId>> = given.into_iter().map(|id| id.filter(|id| used.insert(*id))).collect();
        // how often what a member is was there already: a list of equal ones is named in one go
        let mut times: HashMap<Uuid, u64> = HashMap::new();
        let members = all.into_iter().zip(first).map(|(Read { value, .. }, id)| {
            let id = id.unwrap_or_else(|| {
                let what = Uuid::new_v5(&Uuid::NAMESPACE_OID, &serde_json::to_vec(&value).unwrap_or_default());
                let times = times.entry(what).or_default();
                loop {
                    let id = MemberId(Uuid::new_v5(&what, &times.to_be_bytes()));
                    *times += 1;
                    if used.insert(id) {
                        return id;
                    }
                }
            });
            Member { id, value }
        });
        Self(members.collect())
    }

    /// Adds a member at the end.
    pub fn push(&mut self, value: T) {
        self.extend([value]);
    }
}

impl<T> Members<T> {
    /// The members without their identifiers.
    pub fn values(&self) -> impl Iterator<Item = &T> + Clone {
        self.0.iter().map(|m| &m.value)
    }

    /// Keeps the members for which `wanted` holds.
    pub fn retain(&mut self, wanted: impl Fn(&T) -> bool) {
        self.0.retain(|m| wanted(m));
    }

    /// Whether the list is empty; such a list is not written.
    pub(super) fn is_none(&self) -> bool {
        self.0.is_empty()
    }
}

impl<T> Default for Members<T> {
    fn default() -> Self {
        Self(Vec::new())
    }
}

impl<T: Serialize> From<Vec<T>> for Members<T> {
    fn from(all: Vec<T>) -> Self {
        all.into_iter().collect()
    }
}

impl<T: Serialize> FromIterator<T> for Members<T> {
    fn from_iter<I: IntoIterator<Item = T>>(all: I) -> Self {
        Self::named(all.into_iter().map(|value| Read { id: None, value }).collect())
    }
}

impl<T: Serialize> Extend<T> for Members<T> {
    fn extend<I: IntoIterator<Item = T>>(&mut self, more: I) {
        let there = std::mem::take(&mut self.0).into_iter().map(|m| Read { id: Some(m.id), value: m.value });
        let more = more.into_iter().map(|value| Read { id: None, value });
        *self = Self::named(there.chain(more).collect());
    }
}

impl<'de, T: Serialize + Deserialize<'de>> Deserialize<'de> for Members<T> {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        Vec::deserialize(deserializer).map(Self::named)
    }
}

impl<T> Deref for Members<T> {
    type Target = [Member<T>];

    fn deref(&self) -> &Self::Target {
        &self.0
    }
}

impl<T> DerefMut for Members<T> {
    fn deref_mut(&mut self) -> &mut Self::Target {
        &mut self.0
    }
}

impl<'a, T> IntoIterator for &'a Members<T> {
    type Item = &'a Member<T>;
    type IntoIter = std::slice::Iter<'a, Member<T>>;

    fn into_iter(self) -> Self::IntoIter {
        self.0.iter()
    }
}

impl<'a, T> IntoIterator for &'a mut Members<T> {
    type Item = &'a mut Member<T>;
    type IntoIter = std::slice::IterMut<'a, Member<T>>;

    fn into_iter(self) -> Self::IntoIter {
        self.0.iter_mut()
    }
}

impl<T> Deref for Member<T> {
    type Target = T;

    fn deref(&self) -> &T {
        &self.value
    }
}

impl<T> DerefMut for Member<T> {
    fn deref_mut(&mut self) -> &mut T {
        &mut self.value
    }
}

/// In TypeScript, the type of the members with an `id`, which may be left out where a member is new.
impl<T: TS> TS for Members<T> {
    type WithoutGenerics = Vec<ts_rs::Dummy>;
    type OptionInnerType = Self;

    fn ident(_: &Config) -> String {
        "Array".to_owned()
    }

    fn name(config: &Config) -> String {
        format!("Array<{} & {{ id?: string }}>", T::name(config))
    }

    fn inline(config: &Config) -> String {
        format!("Array<{} & {{ id?: string }}>", T::inline(config))
    }

    fn visit_dependencies(visitor: &mut impl TypeVisitor)
    where
        Self: 'static,
    {
        T::visit_dependencies(visitor);
    }

    fn visit_generics(visitor: &mut impl TypeVisitor)
    where
        Self: 'static,
    {
        T::visit_generics(visitor);
        visitor.visit::<T>();
    }
}

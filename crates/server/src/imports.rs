//! Imported drawings and fonts: taken in, and held ready for every request.

use crate::app::App;
use crate::confined;
use crate::errors::{BringError, PictureError};
use inky_core::outline::{Face, FontCollection, ImportedDrawing, read_font};
use inky_core::sheet::{DrawingId, FontId};
use sha2::{Digest, Sha256};
use std::sync::Arc;

impl App {
    /// Takes in an SVG drawing; its outline.
    pub(crate) async fn take_drawing(
        &self,
        file_name: &str,
        bytes: Vec<u8>,
    ) -> Result<(DrawingId, Arc<ImportedDrawing>), BringError> {
        let name = crate::pictures::name_of(file_name, "Drawing");
        let drawn = self.read_drawing(&name, &bytes).await?;
        let id = DrawingId(self.store.put_blob(&bytes).await?);
        self.keep_drawing(&id, &drawn).await?;
        Ok((id.clone(), self.drawings.put(&id, drawn)))
    }

    async fn read_drawing(&self, name: &str, bytes: &[u8]) -> Result<ImportedDrawing, BringError> {
        let mut own = Vec::new();
        for (id, name) in self.store.fonts(None).await? {
            if let Some(face) = self.own_face(&id).await? {
                own.push((id, name, face));
            }
        }
        let own: Vec<_> = own.iter().map(|(id, name, face)| (id.clone(), name.clone(), &face.data[..])).collect();
        let _permit = self.turn().await;
        Ok(confined::drawing(name, bytes, &own).await?)
    }

    /// Keeps the outline of a drawing whose file is kept.
    pub(crate) async fn keep_drawing(&self, id: &DrawingId, drawn: &ImportedDrawing) -> Result<(), BringError> {
        let outline = serde_json::to_vec(drawn).map_err(crate::storage::StoreError::from)?;
        let outline = self.store.put_blob(&outline).await?;
        Ok(self.store.put_drawing(id, &outline).await?)
    }

    pub(crate) async fn drawing(&self, id: &DrawingId) -> Result<Option<Arc<ImportedDrawing>>, PictureError> {
        if let Some(known) = self.drawings.get(id) {
            return Ok(Some(known));
        }
        let Some(outline) = self.store.drawn_outline(id).await? else {
            return Ok(None);
        };
        if let Ok(drawn) = serde_json::from_slice::<ImportedDrawing>(&outline) {
            return Ok(Some(self.drawings.put(id, drawn)));
        }
        self.read_again(id, &outline).await
    }

    /// A drawing that was kept by a version that knew less of it.
    async fn read_again(&self, id: &DrawingId, kept: &[u8]) -> Result<Option<Arc<ImportedDrawing>>, PictureError> {
        let kept: serde_json::Value = serde_json::from_slice(kept).map_err(crate::storage::StoreError::from)?;
        let name = kept["name"].as_str().unwrap_or("Drawing").to_owned();
        let Some(file) = self.store.blob(&id.0).await? else {
            return Ok(None);
        };
        let Ok(drawn) = self.read_drawing(&name, &file).await else {
            return Ok(None);
        };
        let outline = serde_json::to_vec(&drawn).map_err(crate::storage::StoreError::from)?;
        self.store.put_drawing(id, &self.store.put_blob(&outline).await?).await?;
        Ok(Some(self.drawings.put(id, drawn)))
    }

    /// Takes in a font file.
    pub(crate) async fn take_font(&self, file_name: &str, bytes: Vec<u8>) -> Result<Arc<Face>, BringError> {
        let id = FontId(hex::encode(Sha256::digest(&bytes)));
        confined::font(&id, file_name, &bytes).await?;
        let (own, name) = (id.clone(), file_name.to_owned());
        let reading = tokio::task::spawn_blocking(move || read_font(own, &name, &bytes).map(|face| (bytes, face)));
        let (bytes, face) = reading.await.map_err(PictureError::from)??;
        self.store.put_blob(&bytes).await?;
        self.store.put_font(&id, &face.name).await?;
        Ok(self.faces.put(&id, face))
    }

    /// A font that was brought in.
    pub(crate) async fn own_face(&self, id: &FontId) -> Result<Option<Arc<Face>>, PictureError> {
        if let Some(known) = self.faces.get(id) {
            return Ok(Some(known));
        }
        let Some((name, bytes)) = self.store.font(id).await? else {
            return Ok(None);
        };
        // it was read when it was taken in; a version that reads it no longer treats it as missing
        Ok(read_font(id.clone(), &name, &bytes).ok().map(|face| self.faces.put(id, face)))
    }

    /// The application's fonts with some that were brought in.
    pub(crate) async fn fonts_with(&self, ids: &[FontId]) -> Result<Arc<FontCollection>, PictureError> {
        let mut fonts = Arc::clone(&self.fonts);
        for id in ids {
            if fonts.get(id).is_none()
                && let Some(face) = self.own_face(id).await?
            {
                Arc::make_mut(&mut fonts).add(face);
            }
        }
        Ok(fonts)
    }
}

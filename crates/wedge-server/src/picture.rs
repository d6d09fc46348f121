//! Pictures decoded: what opens, how large they may be, turned as they were held.

use image::codecs::jpeg::JpegEncoder;
use image::imageops::FilterType;
use image::metadata::Orientation;
use image::{DynamicImage, ImageDecoder, ImageError, ImageFormat, ImageReader, Limits, RgbImage};
use std::io::Cursor;
use wedge_core::film::Image;
use wedge_files::jpeg_head;

/// The longest side a picture may have, px.
const MOST_PX: u32 = 8192;
/// The most bytes a picture may come in.
pub const MOST_BYTES: usize = 40 << 20;

/// The longest side of a picture that is kept, px, and how well, of 100.
const KEPT_PX: u32 = 1920;
const KEPT_QUALITY: u8 = 88;

/// A picture of a rider: three bytes a pixel.
pub struct Picture {
    /// Pixels across.
    pub width: usize,
    /// Pixels down.
    pub height: usize,
    rgb: Vec<u8>,
}

impl Picture {
    /// For the finder.
    pub fn image(&self) -> Option<Image<'_>> {
        Image::new(self.width, self.height, &self.rgb)
    }

    /// Written anew, with nothing in it but the picture; smaller where it is larger than a screen shows.
    pub fn jpeg(self) -> Result<Vec<u8>, String> {
        let side = |pixels: usize| u32::try_from(pixels).unwrap_or_default();
        let image = RgbImage::from_raw(side(self.width), side(self.height), self.rgb)
            .ok_or_else(|| CUT_OFF.to_owned())?;
        let mut image = DynamicImage::from(image);
        if image.width().max(image.height()) > KEPT_PX {
            image = image.resize(KEPT_PX, KEPT_PX, FilterType::Triangle);
        }
        let mut bytes = Vec::new();
        image
            .write_with_encoder(JpegEncoder::new_with_quality(&mut bytes, KEPT_QUALITY))
            .map_err(|error| in_words(&error))?;
        Ok(bytes)
    }

    /// Its size, px.
    pub fn size(&self) -> [f64; 2] {
        [self.width, self.height].map(|side| u32::try_from(side).map_or(0.0, f64::from))
    }
}

/// Three bytes a pixel as PNG.
///
/// # Errors
///
/// There are too few of them for its size.
pub fn png(width: usize, height: usize, rgb: Vec<u8>) -> Result<Vec<u8>, String> {
    let side = |pixels: usize| u32::try_from(pixels).unwrap_or_default();
    let image = RgbImage::from_raw(side(width), side(height), rgb).ok_or(CUT_OFF)?;
    let mut bytes = Cursor::new(Vec::new());
    DynamicImage::from(image)
        .write_to(&mut bytes, ImageFormat::Png)
        .map_err(|error| in_words(&error))?;
    Ok(bytes.into_inner())
}

/// Decodes a JPEG, PNG or WebP. What does not open is said in words a fitter can act on.
pub fn decode(bytes: &[u8]) -> Result<Picture, String> {
    if bytes.is_empty() {
        return Err("The file is empty.".to_owned());
    }
    if bytes.len() > MOST_BYTES {
        return Err(format!(
            "The picture is over {} MB: save it smaller.",
            MOST_BYTES >> 20
        ));
    }
    if is_cut_off(bytes) {
        return Err(CUT_OFF.to_owned());
    }
    if let Some(words) = other(bytes) {
        return Err(words.to_owned());
    }
    let mut reader = ImageReader::new(Cursor::new(bytes))
        .with_guessed_format()
        .map_err(|error| format!("The picture does not read: {error}."))?;
    let mut limits = Limits::default();
    limits.max_image_width = Some(MOST_PX);
    limits.max_image_height = Some(MOST_PX);
    limits.max_alloc = Some(512 << 20);
    reader.limits(limits);
    let mut decoder = reader.into_decoder().map_err(|error| in_words(&error))?;
    let turned = decoder.orientation().unwrap_or(Orientation::NoTransforms);
    let mut image = DynamicImage::from_decoder(decoder).map_err(|error| in_words(&error))?;
    image.apply_orientation(turned);
    let rgb = image.into_rgb8();
    let side = |pixels: u32| usize::try_from(pixels).unwrap_or_default();
    Ok(Picture {
        width: side(rgb.width()),
        height: side(rgb.height()),
        rgb: rgb.into_raw(),
    })
}

const CUT_OFF: &str = "The picture is damaged or cut off: it does not read to its end.";

/// Whether a JPEG ends before its picture does: a decoder would fill up the rest with grey. Past a thumbnail there must be an end
/// after where the picture begins.
fn is_cut_off(bytes: &[u8]) -> bool {
    let ends = |from: usize| bytes[from..].windows(2).any(|pair| pair == [0xff, 0xd9]);
    bytes.starts_with(&[0xff, 0xd8]) && !jpeg_head(bytes).is_some_and(|(_, begins)| ends(begins))
}

/// Files people take for pictures that do not open here.
fn other(bytes: &[u8]) -> Option<&'static str> {
    let brand = bytes.get(4..12).unwrap_or_default();
    if bytes.starts_with(b"%PDF") {
        Some("This is a PDF, not a picture: save the page as JPEG or PNG.")
    } else if brand.starts_with(b"ftyphei")
        || brand.starts_with(b"ftyphev")
        || brand.starts_with(b"ftypmif")
    {
        Some("This is HEIC, which does not open here: save it as JPEG on the phone.")
    } else if brand.starts_with(b"ftyp") || bytes.starts_with(&[0x1a, 0x45, 0xdf, 0xa3]) {
        Some("This is a clip, not a picture: open it on the film bench.")
    } else if bytes.starts_with(b"GIF8") {
        Some("This is a GIF, which may move: save one frame of it as JPEG or PNG.")
    } else {
        None
    }
}

fn in_words(error: &ImageError) -> String {
    match error {
        ImageError::Limits(_) => {
            format!("The picture is over {MOST_PX} pixels a side: save it smaller.")
        }
        ImageError::Unsupported(_) => "This is no JPEG, PNG or WebP.".to_owned(),
        _ => CUT_OFF.to_owned(),
    }
}

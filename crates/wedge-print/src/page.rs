//! Blocks set one below the other on pages, then drawn as a tagged PDF with bookmarks.

use crate::fonts::{BEHIND, FAMILY};
use crate::{Fonts, NotPrinted};
use krilla::configure::{Accessibility, ConfigurationBuilder, PdfVersion};
use krilla::destination::XyzDestination;
use krilla::geom::{PathBuilder, Point, Rect, Size, Transform};
use krilla::metadata::Metadata;
use krilla::outline::{Outline, OutlineNode};
use krilla::page::PageSettings;
use krilla::paint::Stroke;
use krilla::surface::Surface;
use krilla::tagging::{
    Artifact, ArtifactType, BBox, ContentTag, Identifier, ListNumbering, Node, SpanTag,
    TableHeaderScope, Tag, TagGroup, TagKind, TagTree,
};
use krilla::text::{Font, GlyphId, KrillaGlyph};
use krilla::{Document, SerializeSettings};
use krilla_svg::{SurfaceExt as _, SvgSettings};
use parley::layout::{Alignment, AlignmentOptions, Layout};
use parley::style::{FontFamily, FontFamilyName, FontWeight, LineHeight, StyleProperty};
use parley::{FontContext, LayoutContext};
use resvg::usvg;
use std::borrow::Cow;
use std::collections::HashMap;
use std::collections::hash_map::Entry;
use std::num::NonZeroU16;
use std::ops::Range;

/// A sheet of paper.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Paper {
    /// 210 by 297 mm.
    A4,
    /// 8.5 by 11 inches.
    Letter,
}

impl Paper {
    /// Width and height, points.
    fn size(self) -> (f32, f32) {
        match self {
            Self::A4 => (595.276, 841.89),
            Self::Letter => (612.0, 792.0),
        }
    }
}

/// Free paper left and right, points: 17 mm.
const SIDE: f32 = 48.0;
/// Above and below.
const EDGE: f32 = 42.0;
/// What the foot takes.
const FOOT: f32 = 16.0;

/// How large text is, points, and how heavy.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Type {
    pub(crate) size: f32,
    pub(crate) bold: bool,
}

pub(crate) const fn plain(size: f32) -> Type {
    Type { size, bold: false }
}

pub(crate) const fn bold(size: f32) -> Type {
    Type { size, bold: true }
}

/// A cell of a table.
#[derive(Debug, Clone)]
pub(crate) struct Cell {
    pub(crate) text: String,
    pub(crate) bold: bool,
    /// Numbers stand right.
    pub(crate) right: bool,
}

/// A table: its columns as shares of the width, its head, its rows. The first cell of a row is its header.
#[derive(Debug, Clone)]
pub(crate) struct Table {
    pub(crate) shares: Vec<f32>,
    pub(crate) head: Vec<Cell>,
    pub(crate) rows: Vec<Vec<Cell>>,
    pub(crate) size: f32,
    /// How high a row is at the least: room to write in by hand.
    pub(crate) room: f32,
}

/// What is set on a page.
pub(crate) enum Block {
    /// A heading; one of level 1 is a bookmark, as is one of level 2 below it.
    Heading(u16, String),
    /// A paragraph.
    Text(String, Type),
    /// A list.
    Items(Vec<String>, Type),
    /// A table.
    Table(Table),
    /// A drawing as wide as the page, or a share of it, with what it shows.
    Figure(Box<usvg::Tree>, f32, String),
    /// The next block begins a page.
    Break,
}

/// A list under its title; nothing where there is nothing.
pub(crate) fn section(pages: &mut Pages, title: &str, lines: &[String], size: f32) {
    if !lines.is_empty() {
        pages.add(Block::Heading(2, title.to_owned()));
        pages.add(Block::Items(lines.to_vec(), plain(size)));
    }
}

/// A line of text set somewhere.
struct Set {
    layout: Layout<()>,
    text: String,
}

/// What was put where.
enum What {
    Text(Box<Set>),
    Rule(f32),
    Figure(Box<usvg::Tree>, Size),
}

struct Put {
    page: usize,
    x: f32,
    y: f32,
    what: What,
    /// Its place among the tags; a rule has none.
    tag: Option<usize>,
}

/// The pages as they grow.
pub(crate) struct Pages {
    paper: Paper,
    fonts: FontContext,
    layouts: LayoutContext<()>,
    put: Vec<Put>,
    /// Each tag with the one it stands in.
    tags: Vec<(TagKind, Option<usize>)>,
    marks: Vec<(u16, String, usize, f32)>,
    page: usize,
    y: f32,
}

impl Pages {
    pub(crate) fn new(paper: Paper, fonts: &Fonts) -> Self {
        Self {
            paper,
            fonts: fonts.context(),
            layouts: LayoutContext::new(),
            put: Vec::new(),
            tags: Vec::new(),
            marks: Vec::new(),
            page: 0,
            y: EDGE,
        }
    }

    /// Whether all of it is on one page.
    pub(crate) fn is_one(&self) -> bool {
        self.page == 0
    }

    fn width(&self) -> f32 {
        self.paper.size().0 - 2.0 * SIDE
    }

    fn bottom(&self) -> f32 {
        self.paper.size().1 - EDGE - FOOT
    }

    /// A text laid out; a letter no font has a shape for stands as a question mark, so that nothing is silently dropped.
    fn set(&mut self, text: &str, kind: Type, width: f32, right: bool) -> Set {
        let plain: String = (text.chars())
            .map(|c| if c == '\n' || c == '\t' { ' ' } else { c })
            .filter(|c| !c.is_control())
            .collect();
        let set = self.laid(plain, kind, width, right);
        let unknown = without_shape(&set.layout);
        if unknown.is_empty() {
            return set;
        }
        let asked = (set.text.char_indices())
            .map(|(at, c)| if unknown.contains(&at) { '?' } else { c })
            .collect();
        self.laid(asked, kind, width, right)
    }

    fn laid(&mut self, text: String, kind: Type, width: f32, right: bool) -> Set {
        let mut builder = self
            .layouts
            .ranged_builder(&mut self.fonts, &text, 1.0, false);
        builder.push_default(StyleProperty::FontFamily(FontFamily::List(Cow::Borrowed(
            &[
                FontFamilyName::Named(Cow::Borrowed(FAMILY)),
                FontFamilyName::Named(Cow::Borrowed(BEHIND)),
            ],
        ))));
        builder.push_default(StyleProperty::FontSize(kind.size));
        builder.push_default(StyleProperty::LineHeight(LineHeight::FontSizeRelative(
            1.28,
        )));
        let weight = if kind.bold { 700.0 } else { 400.0 };
        builder.push_default(StyleProperty::FontWeight(FontWeight::new(weight)));
        let mut layout = builder.build(&text);
        layout.break_all_lines(Some(width));
        let alignment = if right {
            Alignment::End
        } else {
            Alignment::Start
        };
        layout.align(alignment, AlignmentOptions::default());
        Set { layout, text }
    }

    fn tag(&mut self, kind: impl Into<TagKind>, within: Option<usize>) -> usize {
        self.tags.push((kind.into(), within));
        self.tags.len() - 1
    }

    fn put(&mut self, (x, y): (f32, f32), what: What, tag: Option<usize>) {
        let page = self.page;
        self.put.push(Put {
            page,
            x,
            y,
            what,
            tag,
        });
    }

    fn turn(&mut self) {
        self.page += 1;
        self.y = EDGE;
    }

    /// Turns the page where so much does not fit any more; at the top of a page everything must.
    fn room(&mut self, height: f32) {
        if self.y + height > self.bottom() && self.y > EDGE {
            self.turn();
        }
    }

    pub(crate) fn add(&mut self, block: Block) {
        match block {
            Block::Break => self.turn(),
            Block::Heading(level, text) => self.heading(level, text),
            Block::Text(text, kind) => {
                let set = self.set(&text, kind, self.width(), false);
                let height = set.layout.height();
                self.room(height);
                let tag = self.tag(Tag::P, None);
                self.put((SIDE, self.y), What::Text(Box::new(set)), Some(tag));
                self.y += height + 4.0;
            }
            Block::Items(items, kind) => self.items(&items, kind),
            Block::Table(table) => self.table(&table),
            Block::Figure(tree, share, shown) => {
                let width = self.width() * share;
                let height = width * tree.size().height() / tree.size().width();
                let Some(size) = Size::from_wh(width, height) else {
                    return;
                };
                self.room(height);
                let at = (SIDE, self.y);
                let frame = Rect::from_xywh(at.0, at.1, width, height);
                let figure = Tag::Figure(Some(shown))
                    .with_bbox(frame.map(|frame| BBox::new(self.page, frame)));
                let tag = self.tag(figure, None);
                self.put(at, What::Figure(tree, size), Some(tag));
                self.y += height + 6.0;
            }
        }
    }

    fn heading(&mut self, level: u16, text: String) {
        let (size, above) = match level {
            1 => (21.0, 0.0),
            _ => (13.5, 8.0),
        };
        let set = self.set(&text, bold(size), self.width(), false);
        let height = set.layout.height();
        if self.y > EDGE {
            self.y += above;
        }
        // A heading does not stand alone at the foot of a page.
        self.room(height + 46.0);
        self.marks.push((level, text.clone(), self.page, self.y));
        let level = NonZeroU16::new(level).unwrap_or(NonZeroU16::MIN);
        let tag = self.tag(Tag::Hn(level, Some(text)), None);
        self.put((SIDE, self.y), What::Text(Box::new(set)), Some(tag));
        self.y += height + 3.0;
    }

    fn items(&mut self, items: &[String], kind: Type) {
        if items.is_empty() {
            return;
        }
        let list = self.tag(Tag::L(ListNumbering::Disc), None);
        let indent = kind.size * 1.1;
        for item in items {
            let set = self.set(item, kind, self.width() - indent, false);
            let height = set.layout.height();
            self.room(height);
            let dot = self.set("•", kind, indent, false);
            let line = self.tag(Tag::LI, Some(list));
            let label = self.tag(Tag::Lbl, Some(line));
            let body = self.tag(Tag::LBody, Some(line));
            self.put((SIDE, self.y), What::Text(Box::new(dot)), Some(label));
            self.put(
                (SIDE + indent, self.y),
                What::Text(Box::new(set)),
                Some(body),
            );
            self.y += height + 2.0;
        }
        self.y += 3.0;
    }

    fn table(&mut self, table: &Table) {
        if table.rows.is_empty() {
            return;
        }
        let tag = self.tag(Tag::Table, None);
        let head = self.row_sets(table, &table.head);
        self.row(head, tag, true);
        for row in &table.rows {
            let row = self.row_sets(table, row);
            if self.y + row.1 > self.bottom() {
                self.turn();
                let head = self.row_sets(table, &table.head);
                self.row(head, tag, true);
            }
            self.row(row, tag, false);
        }
        self.y += 5.0;
    }

    /// The cells of a row, set with where they begin, and how high they are together.
    fn row_sets(&mut self, table: &Table, row: &[Cell]) -> (Vec<(f32, Set)>, f32) {
        // Wide enough that a number standing right and a word standing left after it do not touch.
        let (width, gap) = (self.width(), 12.0);
        let mut x = SIDE;
        let mut sets = Vec::new();
        for (cell, share) in row.iter().zip(&table.shares) {
            let column = width * share;
            let kind = Type {
                size: table.size,
                bold: cell.bold,
            };
            sets.push((x, self.set(&cell.text, kind, column - gap, cell.right)));
            x += column;
        }
        let heights = sets.iter().map(|(_, set)| set.layout.height());
        let height = heights.fold(0.0, f32::max) + 3.4;
        (sets, height.max(table.room))
    }

    fn row(&mut self, (sets, height): (Vec<(f32, Set)>, f32), within: usize, head: bool) {
        let tag = self.tag(Tag::TR, Some(within));
        for (index, (x, set)) in sets.into_iter().enumerate() {
            let cell: TagKind = match (head, index) {
                (true, _) => Tag::TH(TableHeaderScope::Column).into(),
                (false, 0) => Tag::TH(TableHeaderScope::Row).into(),
                _ => Tag::TD.into(),
            };
            let cell = self.tag(cell, Some(tag));
            self.put((x, self.y), What::Text(Box::new(set)), Some(cell));
        }
        self.y += height;
        self.put((SIDE, self.y - 2.2), What::Rule(self.width()), None);
    }

    /// The pages as a PDF, each with what stands at its foot and its number.
    pub(crate) fn written(mut self, title: &str, foot: &str) -> Result<Vec<u8>, NotPrinted> {
        let failed = NotPrinted("the sheet could not be set on paper");
        let configuration = ConfigurationBuilder::new()
            .with_version(PdfVersion::Pdf17)
            .with_accessibility_validator(Accessibility::UA1)
            .finish()
            .map_err(|_| failed)?;
        let mut document = Document::new_with(SerializeSettings {
            configuration,
            ..SerializeSettings::default()
        });
        let (width, height) = self.paper.size();
        let mut ids: HashMap<usize, Vec<Identifier>> = HashMap::new();
        let mut known = HashMap::new();
        let last = self.page + 1;
        let put = std::mem::take(&mut self.put);
        for page in 0..last {
            let foot = format!("{foot} · page {} of {last}", page + 1);
            let foot = self.set(&foot, plain(8.5), self.width(), false);
            let settings = PageSettings::from_wh(width, height).ok_or(failed)?;
            let mut paper = document.start_page_with(settings);
            let mut surface = paper.surface();
            for put in put.iter().filter(|put| put.page == page) {
                let id = draw(&mut surface, put, &mut known).ok_or(failed)?;
                if let Some(tag) = put.tag {
                    ids.entry(tag).or_default().extend(id);
                }
            }
            surface.start_tagged(ContentTag::Artifact(Artifact::with_kind(
                ArtifactType::Footer,
            )));
            lines(&mut surface, &foot, (SIDE, height - EDGE - 4.0), &mut known);
            surface.end_tagged();
            surface.finish();
            paper.finish();
        }
        document.set_tag_tree(self.tree(&mut ids));
        document.set_outline(self.outline());
        document.set_metadata(
            Metadata::new()
                .title(title.to_owned())
                .language("en".to_owned())
                .creator("Wedge".to_owned()),
        );
        document.finish().map_err(|_| failed)
    }

    /// The tags as a tree, in the order they were made.
    fn tree(&self, ids: &mut HashMap<usize, Vec<Identifier>>) -> TagTree {
        let mut tree = TagTree::new().with_lang(Some("en".to_owned()));
        let mut roots = Vec::new();
        // What stands within another was made after it: from the last, each is handed to its own.
        let mut within: Vec<Vec<TagGroup>> = vec![Vec::new(); self.tags.len()];
        for (tag, (kind, parent)) in self.tags.iter().enumerate().rev() {
            let leaves = ids.remove(&tag).unwrap_or_default();
            let leaves = leaves.into_iter().map(Node::from).collect();
            let mut group = TagGroup::with_children(kind.clone(), leaves);
            for child in std::mem::take(&mut within[tag]).into_iter().rev() {
                group.push(child);
            }
            match *parent {
                Some(parent) => within[parent].push(group),
                None => roots.push(group),
            }
        }
        for root in roots.into_iter().rev() {
            tree.push(root);
        }
        tree
    }

    fn outline(&self) -> Outline {
        let mut outline = Outline::new();
        let mut open: Option<OutlineNode> = None;
        for (level, text, page, y) in &self.marks {
            let node = OutlineNode::new(
                text.clone(),
                XyzDestination::new(*page, Point::from_xy(SIDE, *y)),
            );
            match (&mut open, level) {
                (Some(parent), 2..) => parent.push_child(node),
                _ => {
                    if let Some(done) = open.replace(node) {
                        outline.push_child(done);
                    }
                }
            }
        }
        if let Some(done) = open {
            outline.push_child(done);
        }
        outline
    }
}

/// Where in a text letters begin that no font has a shape for.
fn without_shape(layout: &Layout<()>) -> Vec<usize> {
    let lines = layout.lines();
    let clusters = lines.flat_map(|line| {
        let runs: Vec<_> = line.runs().collect();
        runs.into_iter()
            .flat_map(|run| run.clusters().collect::<Vec<_>>())
    });
    clusters
        .filter(|cluster| cluster.glyphs().any(|glyph| glyph.id == 0))
        .flat_map(|cluster| cluster.text_range())
        .collect()
}

/// The fonts of the document by where their data came from.
type Known = HashMap<(u64, u32), Font>;

/// Draws one thing; gives the identifiers its tag is told by.
fn draw(surface: &mut Surface, put: &Put, known: &mut Known) -> Option<Vec<Identifier>> {
    match &put.what {
        What::Text(set) => {
            let id = surface.start_tagged(ContentTag::Span(SpanTag::empty()));
            lines(surface, set, (put.x, put.y), known);
            surface.end_tagged();
            Some(vec![id])
        }
        What::Rule(width) => {
            let mut path = PathBuilder::new();
            path.move_to(put.x, put.y);
            path.line_to(put.x + width, put.y);
            surface.start_tagged(ContentTag::Artifact(Artifact::with_kind(
                ArtifactType::Layout,
            )));
            surface.set_fill(None);
            surface.set_stroke(Some(Stroke {
                width: 0.5,
                paint: krilla::color::rgb::Color::new(0x9a, 0xa5, 0xa9).into(),
                ..Stroke::default()
            }));
            surface.draw_path(&path.finish()?);
            surface.set_stroke(None);
            surface.end_tagged();
            Some(Vec::new())
        }
        What::Figure(tree, size) => {
            let id = surface.start_tagged(ContentTag::Other);
            surface.push_transform(&Transform::from_translate(put.x, put.y));
            surface.draw_svg(tree, *size, SvgSettings::default())?;
            surface.pop();
            surface.end_tagged();
            Some(vec![id])
        }
    }
}

/// The lines of a text, from its upper left corner.
fn lines(surface: &mut Surface, set: &Set, (left, top): (f32, f32), known: &mut Known) {
    surface.set_fill(Some(krilla::paint::Fill {
        paint: krilla::color::rgb::Color::new(0x14, 0x1c, 0x22).into(),
        ..krilla::paint::Fill::default()
    }));
    for line in set.layout.lines() {
        let metrics = line.metrics();
        let mut x = left + metrics.offset;
        for run in line.runs() {
            let font = run.font();
            let key = (font.data.id(), font.index);
            if let Entry::Vacant(vacant) = known.entry(key) {
                let (data, _) = font.data.clone().into_raw_parts();
                let Some(font) = Font::new(data.into(), font.index) else {
                    continue;
                };
                vacant.insert(font);
            }
            let size = run.font_size();
            let begun = x;
            let mut glyphs: Vec<KrillaGlyph> = Vec::new();
            for cluster in run.visual_clusters() {
                let range: Range<usize> = cluster.text_range();
                if cluster.is_ligature_continuation() {
                    if let Some(last) = glyphs.last_mut() {
                        last.text_range.end = range.end;
                    }
                    continue;
                }
                for glyph in cluster.glyphs() {
                    glyphs.push(KrillaGlyph::new(
                        GlyphId::new(glyph.id),
                        glyph.advance / size,
                        glyph.x / size,
                        glyph.y / size,
                        0.0,
                        range.clone(),
                        None,
                    ));
                    x += glyph.advance;
                }
            }
            let Some(held) = known.get(&key) else {
                continue;
            };
            surface.draw_glyphs(
                Point::from_xy(begun, top + metrics.baseline),
                &glyphs,
                held.clone(),
                &set.text,
                size,
                false,
            );
        }
    }
}

// The field card on paper: one page a shot, whatever the paper. Text comes in as data, never as markup.
#let given = json(bytes(sys.inputs.at("data")))
#let colours = json(bytes(sys.inputs.at("colours")))
#let papers = (a6: (105mm, 148mm, 5mm), a5: (148mm, 210mm, 8mm), letter: (8.5in, 11in, 12mm))
#let (paper-w, paper-h, edge) = papers.at(given.paper)
#set page(width: paper-w, height: paper-h, margin: edge)
#set document(title: given.title, author: "Steady Tide")
#set text(font: "Card Plain", fallback: true, lang: "en", region: "GB", number-width: "tabular", hyphenate: false)
#set par(leading: 0.45em, spacing: 0.5em)

#let ink = rgb(colours.ink)
#let muted = rgb(colours.muted)
#let hair = rgb(colours.rule)
#let note = rgb(colours.note)
#let tint = rgb(colours.second)
#set text(fill: ink)

#let head(body, s) = block(above: 7pt * s, below: 3.5pt * s, text(font: "Card Head", size: 8pt * s, fill: muted, body))
#let line-under(s) = line(length: 100%, stroke: 0.4pt * s + hair)
#let dot(s) = box(baseline: 15%, circle(radius: 2.1pt * s, fill: note))

#let row(r, s) = block(
  width: 100%,
  above: 0pt,
  below: 0pt,
  inset: (x: 2pt * s, y: 2.4pt * s),
  fill: if r.changed { tint } else { none },
  stroke: (bottom: 0.4pt * s + hair),
  grid(
    columns: (29%, 1fr, auto),
    column-gutter: 3pt * s,
    align: (left + horizon, left + horizon, right + horizon),
    text(size: 7pt * s, fill: muted, r.label),
    {
      text(size: 11pt * s, weight: 700, r.value)
      if r.unit != "" { text(size: 7pt * s, " " + r.unit) }
      if r.exact != "" { text(size: 6.5pt * s, fill: muted, "  " + r.exact) }
    },
    if r.changed { dot(s) },
  ),
)

#let tick(text-of, s) = block(
  above: 0pt,
  below: 0pt,
  inset: (y: 1.9pt * s),
  grid(
    columns: (9pt * s, 1fr),
    column-gutter: 3pt * s,
    rect(width: 7pt * s, height: 7pt * s, stroke: 0.8pt * s + ink),
    text(size: 7.2pt * s, text-of),
  ),
)

#let minded(body, s, strong: false) = block(
  above: 5pt * s,
  below: 5pt * s,
  inset: (left: 4pt * s, y: 0.6pt * s),
  stroke: (left: (if strong { 1.6pt } else { 0.8pt }) * s + (if strong { note } else { hair })),
  text(size: 6.6pt * s, body),
)

#let shot(c, s) = {
  text(font: "Card Title", size: 14pt * s, c.title)
  linebreak()
  text(size: 7.4pt * s, fill: muted, (c.camera + ", " + c.held, c.when).filter(t => t != "").join(" · "))
  linebreak()
  text(size: 7.4pt * s, fill: muted, c.light)
  v(-3pt * s)
  line(length: 100%, stroke: 1.1pt * s + ink)
  for w in c.stops { block(below: 3pt * s, inset: 3pt * s, stroke: 1pt * s + note, text(size: 7.6pt * s)[*Stop.* #w]) }
  if c.begin != none {
    block(above: 5pt * s, below: 7pt * s, text(size: 8.4pt * s)[#c.begin.says: #if c.begin.changes == 0 [*change nothing*] else [#text(fill: note, weight: 700)[change #c.begin.changes], marked #dot(s)]#if c.begin.quick.len() > 0 [ (on a button: #c.begin.quick.join(", "))]])
  }
  if c.story != none {
    block(above: 5pt * s, below: 6pt * s, grid(
      columns: if c.story.drawing != none { (34%, 1fr) } else { (1fr,) },
      column-gutter: 6pt * s,
      ..if c.story.drawing != none { (image(bytes(c.story.drawing), format: "svg", width: 100%),) },
      {
        text(size: 8.4pt * s)[*#c.story.framing* of #c.story.film]
        linebreak()
        text(size: 7.2pt * s, fill: muted, c.story.beat + "; " + c.story.takes)
        for m in c.story.minds { linebreak(); text(size: 7.2pt * s, fill: note, weight: 700, m) }
        for m in c.story.says { linebreak(); text(size: 7pt * s, m) }
        for m in c.story.missing { linebreak(); text(size: 7pt * s, fill: muted, m) }
        if c.story.next != none { linebreak(); text(size: 7.2pt * s)[next: #c.story.next.says] }
      },
    ))
  }
  grid(
    columns: (56%, 1fr),
    column-gutter: 8pt * s,
    {
      head("Before the lens", s)
      row((label: "Filter", value: c.glass, unit: "", exact: "", changed: false), s)
      for p in c.pages {
        head(p.page, s)
        for r in p.rows { row(r, s) }
      }
    },
    {
      if c.glass_times.len() > 0 {
        head("Filters through the day", s)
        for g in c.glass_times { block(above: 0pt, below: 3.4pt * s, text(size: 7.2pt * s, g)) }
      }
      head("Before the take", s)
      for k in c.checks { tick(k.text, s) }
      if c.left.len() > 0 {
        head("Afterwards there is left", s)
        for l in c.left { block(above: 0pt, below: 3.4pt * s, text(size: 7.6pt * s, weight: 700, l)) }
      }
      for f in c.fails { minded(text(fill: note, weight: 700, f), s, strong: true) }
      for k in c.cautions { minded([#text(fill: note, weight: 700)[Safety.] #k.text], s, strong: true) }
      for w in c.notes { minded(w, s) }
      if c.code != none {
        v(3pt * s)
        image(bytes(c.code), format: "svg", width: 27mm)
      }
    },
  )
}

#let scales = (1.9, 1.75, 1.6, 1.45, 1.3, 1.2, 1.1, 1.0, 0.93, 0.86, 0.8, 0.74, 0.68, 0.62, 0.56, 0.5, 0.44)
#let fitted(make) = layout(size => {
  // The largest that fits, by halving: what is set smaller is never higher.
  let (low, high) = (0, scales.len() - 1)
  while low < high {
    let middle = calc.quo(low + high, 2)
    if measure(block(width: size.width, make(scales.at(middle)))).height <= size.height { high = middle } else { low = middle + 1 }
  }
  make(scales.at(low))
})

#let cover(s) = {
  text(font: "Card Title", size: 15pt * s, given.title)
  linebreak()
  text(size: 8pt * s, fill: muted, given.subtitle)
  v(-2pt * s)
  line(length: 100%, stroke: 1.1pt * s + ink)
  for p in given.presets {
    head(p.name + ": store these", s)
    for q in p.presets {
      block(above: 1.5pt * s, below: 3.4pt * s, text(size: 7.6pt * s)[*#q.number* #q.name])
    }
    if p.buttons.len() > 0 { block(above: 1.5pt * s, below: 3.4pt * s, text(size: 7.2pt * s)[on buttons: #p.buttons.join(", ")]) }
    block(above: 1.5pt * s, below: 3.4pt * s, text(size: 7.2pt * s, fill: muted)[#p.taps taps through the day, #p.taps_by_menu by the menu alone])
  }
  if given.packing.len() > 0 {
    head("To pack", s)
    let half = calc.ceil(given.packing.len() / 2)
    grid(columns: (1fr, 1fr), column-gutter: 8pt * s, for l in given.packing.slice(0, half) { tick(l, s) }, for l in given.packing.slice(half) { tick(l, s) })
  }
}

#let boxes(f, s) = for n in range(f.tries) {
  box(baseline: 10%, inset: (right: 2.5pt * s), rect(width: 7pt * s, height: 7pt * s, stroke: 0.8pt * s + ink, inset: 0pt, if n < f.kept { align(center + horizon, text(size: 7pt * s, weight: 700, "x")) }))
}
#let film(f, s) = {
  text(font: "Card Title", size: 14pt * s, f.title)
  linebreak()
  text(size: 7.4pt * s, fill: muted, f.says)
  v(-2pt * s)
  line(length: 100%, stroke: 1.1pt * s + ink)
  for b in f.beats {
    head(b.title + if b.shows != "" { ": " + b.shows }, s)
    for l in b.framings {
      block(above: 2pt * s, below: 4pt * s, breakable: false, grid(
        columns: (25%, 1fr, auto),
        column-gutter: 6pt * s,
        align: (left + top, left + top, right + top),
        if l.drawing != none { image(bytes(l.drawing), format: "svg", width: 100%) },
        {
          text(size: 8pt * s)[*#l.number #l.kind*]
          linebreak()
          text(size: 6.8pt * s, fill: muted, l.where)
          for m in l.minds { linebreak(); text(size: 6.8pt * s, fill: note, weight: 700, m) }
        },
        boxes(l, s),
      ))
    }
    for m in b.missing { minded(m, s) }
  }
}

#if given.cover { fitted(cover) }
#for f in given.films {
  pagebreak(weak: true)
  // A list flows over as many pages as it takes.
  film(f, (a6: 0.95, a5: 1.3, letter: 1.6).at(given.paper))
}
#for (n, c) in given.cards.enumerate() {
  if n > 0 or given.cover or given.films.len() > 0 { pagebreak() }
  fitted(s => shot(c, s))
}

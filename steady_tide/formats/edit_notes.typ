// Notes for the edit on paper: groups first, then clip by clip. Text comes in as data, never as markup.
#let given = json(bytes(sys.inputs.at("data")))
#let colours = json(bytes(sys.inputs.at("colours")))
#set page(width: 210mm, height: 297mm, margin: (x: 16mm, y: 15mm), numbering: "1")
#set document(title: given.title, author: "Steady Tide")
#set text(font: "Card Plain", size: 9.5pt, fallback: true, lang: "en", region: "GB", number-width: "tabular", hyphenate: false)
#set par(leading: 0.5em, spacing: 0.6em)
#let ink = rgb(colours.ink)
#let muted = rgb(colours.muted)
#let hair = rgb(colours.rule)
#let note = rgb(colours.note)
#set text(fill: ink)

#let head(body) = block(above: 14pt, below: 6pt, width: 100%, stroke: (bottom: 0.8pt + ink), inset: (bottom: 3pt), text(font: "Card Head", size: 13pt, body))
#let steps(all) = grid(
  columns: (30mm, 1fr),
  row-gutter: 3pt,
  ..all.map(s => (text(fill: muted, s.name), s.value)).flatten(),
)

#text(font: "Card Head", size: 18pt)[Edit notes]
#h(6pt)
#text(fill: muted, given.title)

#if given.groups.len() > 0 { head("The same for all of a group") }
#for g in given.groups {
  block(breakable: false, below: 9pt, {
    text(weight: 700, size: 11pt, "Group " + g.letter)
    text(fill: muted, "  " + g.shares)
    linebreak()
    text(fill: muted, "shots " + g.numbers.map(str).join(", ") + "; " + g.clips + ", " + g.of)
    v(2pt)
    steps(g.steps)
  })
}
#if given.clips.len() > 0 { head("Clip by clip") }
#for c in given.clips {
  block(breakable: false, below: 8pt, width: 100%, stroke: (bottom: 0.4pt + hair), inset: (bottom: 5pt), {
    text(weight: 700, size: 10.5pt, str(c.number) + "  " + c.title)
    text(fill: muted, "  " + c.take_words + ", group " + c.group + ", " + c.of)
    if c.file != none { text(fill: muted, "  " + c.file) }
    v(2pt)
    steps(c.steps)
    for l in c.lost { text(fill: note, weight: 700, "Cannot be mended: " + l); linebreak() }
  })
}
#for t in given.without { text("No notes of " + t + ": no camera can film it."); linebreak() }
#if given.phone.len() > 0 {
  head("On a phone")
  for line in given.phone { block(below: 4pt, line) }
}

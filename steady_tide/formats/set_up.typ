// A camera is set up once: presets side by side, then what stays. Text comes in as data, never as markup.
#let given = json(bytes(sys.inputs.at("data")))
#let colours = json(bytes(sys.inputs.at("colours")))
#set page(width: 148mm, height: 210mm, margin: 9mm, flipped: given.presets.len() > 3)
#set document(title: given.name, author: "Steady Tide")
#set text(font: "Card Plain", size: 8.5pt, fallback: true, lang: "en", region: "GB", number-width: "tabular", hyphenate: false)
#set par(leading: 0.45em, spacing: 0.5em)
#let ink = rgb(colours.ink)
#let muted = rgb(colours.muted)
#let hair = rgb(colours.rule)
#set text(fill: ink)
#let head(body) = block(above: 8pt, below: 3pt, text(font: "Card Head", size: 9.5pt, fill: muted, body))
#let done(id) = box(baseline: 12%, rect(width: 7pt, height: 7pt, stroke: 0.8pt + ink, inset: 0pt, if given.ticks.at(id, default: false) { align(center + horizon, text(size: 7pt, weight: 700, "x")) }))

#text(font: "Card Title", size: 15pt, given.name)
#text(fill: muted)[  set it up once]
#v(-3pt)
#line(length: 100%, stroke: 1pt + ink)
#let n = given.presets.len()
#if n > 0 {
  table(
    columns: (12pt, 24%) + (1fr,) * n,
    stroke: (x, y) => (bottom: if y == 0 { 0.8pt + ink } else { 0.4pt + hair }),
    inset: (x: 3pt, y: 3pt),
    [], [], ..given.presets.enumerate().map(((i, name)) => text(weight: 700, str(i + 1) + "  " + name)),
    ..given.pages.map(p => (
      table.cell(colspan: n + 2, text(font: "Card Head", size: 8.5pt, fill: muted, p.page)),
      ..p.rows.map(r => (
        done(r.id),
        text(fill: muted, r.label),
        ..if r.same { (table.cell(colspan: n, text(weight: 700, r.values.at(0))),) } else { r.values.map(v => text(weight: 700, v)) },
      )).flatten(),
    )).flatten(),
  )
}
#if given.quick.len() > 0 {
  head("On buttons")
  block([#done("quick")  #text(weight: 700, given.quick.join(", "))])
}
#head("Once")
#for h in given.habits {
  block(above: 2pt, below: 3pt, breakable: false, grid(
    columns: (12pt, 30%, 26%, 1fr),
    column-gutter: 4pt,
    done(h.id),
    {
      text(h.name)
      linebreak()
      text(size: 7pt, fill: muted, h.where)
    },
    text(weight: 700, h.value),
    text(size: 7.5pt, fill: muted, h.why),
  ))
}

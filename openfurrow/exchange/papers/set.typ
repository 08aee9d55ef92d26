// The set of papers. Everything that is said stands in set.json; here it is only set.
#let told = json("set.json")
#let paint(name) = rgb(told.colours.at(name))
#let ink = paint("ink")
#let fine = paint("fine")
#let levels = (
  sound: ("sound", paint("grass")),
  look: ("look here", paint("color-warning")),
  stop: ("stops the job", paint("color-error")),
)

#set document(title: told.name + ", " + told.issue, author: "Open Furrow")
#set text(font: "Fira Sans", size: 9.5pt, fill: ink, lang: "en")
#let figure-text(body, size: 10pt, weight: 500) = text(
  font: "Fira Sans", stretch: 75%, size: size, weight: weight, number-width: "tabular", body,
)

#let current = state("title", "")
#set page(
  paper: told.paper,
  flipped: true,
  margin: (x: 13mm, top: 12mm, bottom: 20mm),
  footer-descent: 4mm,
  footer: context block(width: 100%, stroke: (top: 0.8pt + ink), inset: (top: 2mm))[
    #grid(
      columns: (1fr, 1fr, auto),
      column-gutter: 8mm,
      text(weight: 600)[#told.name],
      [#told.issue],
      figure-text(size: 11pt)[#current.get(), sheet #counter(page).display() of #counter(page).final().first()],
    )
    #text(size: 7.5pt, fill: fine)[
      Made #told.made. Local code and licensed people decide: these sheets are for their review.
    ]
  ],
)
#set par(leading: 0.5em, spacing: 0.7em)
#show heading: it => block(below: 3mm, text(size: 15pt, weight: 600, it.body))

#let caution(words) = block(
  stroke: (left: 2.2pt + paint("color-warning")), inset: (left: 2.5mm, y: 0.6mm), text(size: 9pt, words),
)

#let drawing(one) = block(breakable: false, width: 100%)[
  #block(stroke: 0.5pt + fine, image(one.file, width: 100%, alt: one.title))
  #v(-1.5mm)
  #figure-text(weight: 600)[#one.title]
  #h(4mm)
  #figure-text(size: 9pt)[#one.legend.join("  ·  ")]
]

#let numbers(answers) = block(width: 100%, grid(
  columns: (1fr, 1fr, 1fr),
  column-gutter: 7mm,
  row-gutter: 1.6mm,
  ..answers.map(one => block(breakable: false, stroke: (bottom: 0.4pt + fine), width: 100%, inset: (bottom: 0.8mm))[
    #grid(columns: (1fr, auto), column-gutter: 2mm, align: (left + horizon, right + horizon),
      text(size: 8.5pt, one.label),
      figure-text(size: if one.headline { 13pt } else { 10.5pt }, weight: if one.headline { 600 } else { 500 })[#one.text])
  ]),
))

#let check(one) = block(breakable: false, width: 100%)[
  #let (words, colour) = levels.at(one.level)
  #text(weight: 600, fill: colour)[#words] #h(1mm) #one.title:
  #figure-text[#one.measured, #one.relation #one.limit.]
  #if one.level != "sound" [ #one.remedy ]
  #text(size: 7.5pt, fill: fine)[#one.source]
]

#let listed(one) = block(width: 100%)[
  #text(weight: 600)[#one.title]
  #table(
    columns: one.columns.len() * (auto,),
    align: one.columns.map(c => if c.number { right } else { left }),
    stroke: (x, y) => (bottom: (if y == 0 { 0.9pt } else { 0.3pt }) + fine),
    inset: (x: 1.6mm, y: 0.9mm),
    table.header(..one.columns.map(c => text(size: 8.5pt, weight: 600)[#c.title])),
    ..one.rows.flatten().map(cell => figure-text(size: 9pt)[#cell]),
  )
  #if one.left_out > 0 [#one.left_out more: the file of this list has them all.]
  #text(size: 8pt, fill: fine)[#one.note]
]

#let working(one) = block(breakable: false, width: 100%, below: 3.2mm)[
  #grid(columns: (1fr, auto), text(weight: 600)[#one.label], figure-text(size: 12pt, weight: 600)[#one.text])
  #if one.working.formula != "" [#figure-text[#one.working.symbol = #one.working.formula] #linebreak()]
  #text(size: 8.5pt)[
    #one.working.inputs.map(i => [#figure-text(size: 9pt)[#i.symbol = #i.value] #i.meaning]).join("; ")
  ]
  #if one.working.inputs.len() > 0 { linebreak() }
  #text(size: 7.5pt, fill: fine)[#one.working.source, #one.working.sureness. #one.working.note]
]

#for (number, one) in told.pages.enumerate() {
  if number > 0 { pagebreak() }
  current.update(one.title)
  if number == 0 [
    #text(size: 26pt, weight: 600)[#told.name]
    #v(-4mm)
    #text(size: 11pt)[#told.issue]
    #if told.missing > 0 [
      #caution[#told.missing values have still to be said: what stands on them has no sheet.]
    ]
    #if not told.cover { heading(level: 1, one.title) }
  ] else [
    #heading(level: 1, one.title)
  ]
  if one.caution != "" { caution(one.caution) }
  for d in one.drawings { drawing(d) }
  if one.answers.len() > 0 { numbers(one.answers) }
  for c in one.checks { check(c) }
  for l in one.lines { caution(l) }
  for t in one.tables { listed(t) }
  if one.workings.len() > 0 {
    columns(2, gutter: 8mm, { for w in one.workings { working(w) } })
  }
}

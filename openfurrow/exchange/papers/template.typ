// Sheets that are held against a wall: everything at full size, in millimetres from the sheet's corner.
#let told = json("set.json")
#set document(title: told.name + ", holes in the wall", author: "Open Furrow")
#set text(font: "Fira Sans", size: 9.5pt, lang: "en")
#set page(paper: told.paper, margin: 0mm)
#set par(leading: 0.5em, spacing: 0.6em)

#let at(x, y, body) = place(top + left, dx: x * 1mm, dy: y * 1mm, body)
#let centred(x, y, width, body) = at(x - width / 2, y, box(width: width * 1mm, align(center, body)))
#let stroked(x0, y0, x1, y1, weight, dash: none) = place(
  top + left, line(start: (x0 * 1mm, y0 * 1mm), end: (x1 * 1mm, y1 * 1mm), stroke: (thickness: weight, dash: dash)),
)
#let cross(x, y, arm, weight) = {
  stroked(x - arm, y, x + arm, y, weight)
  stroked(x, y - arm, x, y + arm, weight)
}

#for (number, sheet) in told.sheets.enumerate() {
  if number > 0 { pagebreak() }
  at(sheet.margin, sheet.margin, box(width: (sheet.wide - 2 * sheet.margin) * 1mm)[
    #text(size: 15pt, weight: 600)[#sheet.title] \
    #text(size: 9pt)[#told.name, #told.issue. #sheet.words]
  ])
  stroked(sheet.margin, sheet.level, sheet.wide - sheet.margin, sheet.level, 0.6pt, dash: "dash-dotted")
  at(sheet.margin, sheet.level + 1.5, text(size: 8pt)[level])
  for hole in sheet.holes {
    at(hole.x - hole.across / 2, sheet.level - hole.across / 2, circle(
      radius: hole.across / 2 * 1mm, stroke: 0.8pt,
    ))
    cross(hole.x, sheet.level, hole.across / 2 + 5, 0.35pt)
    centred(hole.x, sheet.level + hole.across / 2 + 7, hole.room, text(size: 9pt, weight: 600)[#hole.name])
    centred(hole.x, sheet.level + hole.across / 2 + 11.5, hole.room, text(size: 8pt)[#hole.words])
  }
  if sheet.point != none {
    cross(sheet.point.x, sheet.point.y, 9, 1.6pt)
    at(sheet.point.x + 2, sheet.point.y + 1.5, text(size: 8.5pt, weight: 600)[the shared point])
  }
  let foot = sheet.high - sheet.margin - 16
  stroked(sheet.margin, foot, sheet.margin + sheet.bar, foot, 1.2pt)
  stroked(sheet.margin, foot - 3, sheet.margin, foot + 3, 0.8pt)
  stroked(sheet.margin + sheet.bar, foot - 3, sheet.margin + sheet.bar, foot + 3, 0.8pt)
  at(sheet.margin, foot + 4, box(width: (sheet.wide - 2 * sheet.margin) * 1mm, text(size: 8.5pt)[
    Measure this bar first: #sheet.bar_words. Where it is not, print again at full size, 100 %, nothing fitted to the
    page. What lies in the wall is looked for before it is drilled; a pilot hole from the shared point comes first.
  ]))
}

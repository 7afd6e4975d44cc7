"""The yardsticks: the same jobs with Debian's python3-pandas, python3-openpyxl and python3-docx, and Python's own zipfile and ElementTree. Prints seconds."""
import copy
import io
import json
import os
import sys
import time
import warnings
import zipfile

warnings.simplefilter("ignore")
job, folder = sys.argv[1], sys.argv[2]


def read(count):
    import pandas

    for _ in range(count):
        pandas.read_excel(os.path.join(folder, "master.xlsx"))


def read_csv(count):
    import pandas

    for _ in range(count):
        pandas.read_csv(os.path.join(folder, "master.csv"))


def split():
    import pandas

    table = pandas.read_excel(os.path.join(folder, "master.xlsx"))
    output = sys.argv[4]
    os.makedirs(os.path.join(output, "yardstick"), exist_ok=True)
    for key, rows in table.groupby("Site"):
        rows.to_excel(os.path.join(output, "yardstick", f"{key}.xlsx"), index=False)


def fill_workbook(count):
    import openpyxl

    with open(os.path.join(folder, "record.json")) as file:
        record = json.load(file)
    path = os.path.join(folder, "plain.xlsx")
    for _ in range(count):
        book = openpyxl.load_workbook(path)
        sheet = book.active
        sheet["A6"], sheet["A7"], sheet["A8"] = record["site"], record["street"], record["town"]
        for merged in [one for one in sheet.merged_cells.ranges if one.min_row > 15]:
            sheet.unmerge_cells(str(merged))
        for index, line in enumerate(record["lines"]):
            for column, name in enumerate(["visit_date", "unit", "kind", "inspector", "result", "hours", "rate", "parts"]):
                cell = sheet.cell(row=15 + index, column=column + 1)
                cell.value = line[name]
                cell._style = copy.copy(sheet.cell(row=15, column=column + 1)._style)
        book.save(io.BytesIO())


def fill_letter(count):
    import docx

    with open(os.path.join(folder, "record.json")) as file:
        record = json.load(file)
    for _ in range(count):
        letter = docx.Document(os.path.join(folder, "notice.docx"))
        for paragraph in letter.paragraphs:
            for run in paragraph.runs:
                run.text = run.text.replace("{{ site }}", record["site"])
        table = letter.tables[0]
        template = table.rows[1]._tr
        for line in record["lines"]:
            row = copy.deepcopy(template)
            template.addprevious(row)
            cells = docx.table._Row(row, table).cells
            for cell, name in zip(cells, ["visit_date", "unit", "kind", "result", "next_due", "remarks"]):
                cell.paragraphs[0].runs[0].text = str(line[name])
        template.getparent().remove(template)
        letter.save(io.BytesIO())


def fill_deck(count):
    import xml.etree.ElementTree as etree

    with open(os.path.join(folder, "record.json")) as file:
        record = json.load(file)
    a = "{http://schemas.openxmlformats.org/drawingml/2006/main}"
    values = {"site": record["site"], "street": record["street"], "town": record["town"], "period.label": record["period"]["label"]}
    for _ in range(count):
        made = io.BytesIO()
        with zipfile.ZipFile(os.path.join(folder, "deck.pptx")) as deck, zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as filled:
            for name in deck.namelist():
                content = deck.read(name)
                if name.endswith(".xml"):
                    root = etree.fromstring(content)
                    for text in root.iter(f"{a}t"):
                        for name_of, value in values.items():
                            if text.text and "{{ " + name_of + " }}" in text.text:
                                text.text = text.text.replace("{{ " + name_of + " }}", value)
                    for table in root.iter(f"{a}tbl"):
                        template = table.findall(f"{a}tr")[1]
                        for line in record["lines"][:10]:
                            row = copy.deepcopy(template)
                            table.insert(list(table).index(template), row)
                            cells = [cell.find(f".//{a}t") for cell in row.iter(f"{a}tc")]
                            for cell, key in zip(cells, ["visit_date", "unit", "kind", "result", "hours"]):
                                cell.text = str(line[key])
                        table.remove(template)
                    content = etree.tostring(root, xml_declaration=True, encoding="UTF-8")
                filled.writestr(name, content)


count = int(sys.argv[3]) if len(sys.argv) > 3 else 1
if job == "workbook":
    import openpyxl
elif job == "letter":
    import docx
elif job == "deck":
    import xml.etree.ElementTree
else:
    import pandas
started = time.perf_counter()
{"split": split, "read": lambda: read(count), "csv": lambda: read_csv(count), "workbook": lambda: fill_workbook(count), "letter": lambda: fill_letter(count), "deck": lambda: fill_deck(count)}[job]()
print((time.perf_counter() - started) / count)

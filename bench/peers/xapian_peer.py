"""Answers Bench\\XapianPeer: builds a database of the documents given line by line up to `null`, if there is none yet,
then for each question (a tree) prints the total, having counted all facets and fetched 50 by date and by relevance."""

import json
import os
import sys

import xapian

FIELDS = ["library", "kind", "reach", "structure", "place", "vessel", "grade", "language", "branch", "year"]
DAY = len(FIELDS)


def build(path):
    database = xapian.WritableDatabase(path, xapian.DB_CREATE_OR_OVERWRITE)
    generator = xapian.TermGenerator()
    for line in sys.stdin:
        given = json.loads(line)
        if given is None:
            break
        texts, values, day = given
        document = xapian.Document()
        generator.set_document(document)
        generator.set_termpos(0)
        for text in texts:
            generator.index_text(text)
            generator.increase_termpos(100)
        for slot, value in enumerate(values):
            document.add_boolean_term("X%s%d" % (FIELDS[slot], value))
            document.add_value(slot, str(value))
        document.add_value(DAY, xapian.sortable_serialise(day))
        database.add_document(document)
    database.commit()
    database.close()
    print("built", flush=True)


def query(tree):
    if isinstance(tree, str):
        return xapian.Query(tree)
    kind, rest = tree[0], tree[1:]
    if kind == "all":
        return xapian.Query.MatchAll
    if kind == "word":
        return xapian.Query(rest[0])
    if kind == "mask":
        return xapian.Query(xapian.Query.OP_WILDCARD, rest[0], 0, xapian.Query.WILDCARD_LIMIT_ERROR, xapian.Query.OP_OR)
    if kind == "phrase":
        return xapian.Query(xapian.Query.OP_PHRASE, rest, len(rest))
    if kind == "near":
        return xapian.Query(xapian.Query.OP_NEAR, rest[1:], rest[0])
    operator = {"and": xapian.Query.OP_AND, "or": xapian.Query.OP_OR, "filter": xapian.Query.OP_FILTER, "not": xapian.Query.OP_AND_NOT}[kind]
    if kind == "and":
        # What stands in fields only filters: it must not count for relevance.
        operator = xapian.Query.OP_AND
    return xapian.Query(operator, [query(part) for part in rest])


def answer(database, tree):
    asked = query(["filter", tree[1], tree[2]])
    size = database.get_doccount()
    enquire = xapian.Enquire(database)
    enquire.set_query(asked)
    spies = [xapian.ValueCountMatchSpy(slot) for slot in range(len(FIELDS))]
    for spy in spies:
        enquire.add_matchspy(spy)
    enquire.set_weighting_scheme(xapian.BoolWeight())
    enquire.set_sort_by_value(DAY, True)
    found = enquire.get_mset(0, 50, size)
    for spy in spies:
        for _ in spy.values():
            pass
    enquire.clear_matchspies()
    enquire.set_weighting_scheme(xapian.BM25Weight())
    enquire.set_sort_by_relevance()
    enquire.get_mset(0, 50)
    return found.get_matches_estimated()


path = sys.argv[1]
if not os.path.exists(os.path.join(os.path.dirname(path), "made")):
    os.makedirs(os.path.dirname(path), exist_ok=True)
    build(path)
opened = xapian.Database(path)
for line in sys.stdin:
    print(answer(opened, json.loads(line)), flush=True)

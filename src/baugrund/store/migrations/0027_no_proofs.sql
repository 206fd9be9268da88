-- What was proven of a state is not kept any more: a search begins from the boxes of before alone.
DROP TABLE last_proofs;

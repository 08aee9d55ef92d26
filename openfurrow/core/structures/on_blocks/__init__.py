"""Purlins on piles of blocks, modules on them nearly flat: nothing is driven, bored or bolted down."""

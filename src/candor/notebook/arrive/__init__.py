"""What came: findings, photos, kinds, packs."""

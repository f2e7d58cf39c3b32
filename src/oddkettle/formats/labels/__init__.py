"""What stands on a part, in a shop or a data sheet, as the fields that it goes into."""

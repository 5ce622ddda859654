"""What can be asked of a document: each question is one function."""

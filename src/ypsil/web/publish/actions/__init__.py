"""What can be done about readers, one verb a file. Each finds the report among those of the asker; one that is not
there for the asker is Http404."""

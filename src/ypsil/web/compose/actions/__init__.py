"""What can be done to reports, one verb a file. Each finds what it is about among what the asker may change, so that
nobody who calls it needs to check; what is not there for the asker is Http404."""

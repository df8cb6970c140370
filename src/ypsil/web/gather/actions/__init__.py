"""What can be done to tables, one verb a file. Each finds what it is about among what is the asker's; what is not there
for the asker is Http404."""

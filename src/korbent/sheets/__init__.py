"""What leaves the office: calculation, drawings and tables, composed as values on paper and written by
korbent.files."""

"""What the certificate will say, and its pages."""

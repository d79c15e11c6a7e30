//! Short marks that tell pieces of code apart, the same on every machine and in every release.

/// Eight hexadecimal digits for a piece of code. Layout does not count: white space, quotes, parentheses and commas are what
/// formatters change.
#[must_use]
pub fn fingerprint(code: &str) -> String {
    // FNV-1a, 32 bits: fixed for good, unlike the hashes of the standard library.
    let mut hash: u32 = 0x811c_9dc5;
    let counts = |char: &char| !char.is_whitespace() && !matches!(char, '\'' | '"' | '(' | ')' | ',' | '\\');
    let mut buffer = [0; 4];
    for char in code.chars().filter(counts) {
        for byte in char.encode_utf8(&mut buffer).bytes() {
            hash = (hash ^ u32::from(byte)).wrapping_mul(0x0100_0193);
        }
    }
    format!("{hash:08x}")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn layout_does_not_count_and_code_does() {
        assert_eq!(fingerprint("berth( 'a',\n  b )"), fingerprint("berth(\"a\", b)"));
        assert_ne!(fingerprint("berth.clear()"), fingerprint("berth.close()"));
        assert_eq!(fingerprint(""), "811c9dc5");
    }
}

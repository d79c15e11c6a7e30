//! Operators, from the parser's to the index's.

use leitmotiv_syntax::ast;

use crate::tree::*;

pub(super) fn binary_op(op: ast::Operator) -> BinaryOp {
    match op {
        ast::Operator::Add => BinaryOp::Add,
        ast::Operator::Sub => BinaryOp::Sub,
        ast::Operator::Mult => BinaryOp::Mul,
        ast::Operator::MatMult => BinaryOp::MatMul,
        ast::Operator::Div => BinaryOp::Div,
        ast::Operator::Mod => BinaryOp::Mod,
        ast::Operator::Pow => BinaryOp::Pow,
        ast::Operator::LShift => BinaryOp::LShift,
        ast::Operator::RShift => BinaryOp::RShift,
        ast::Operator::BitOr => BinaryOp::BitOr,
        ast::Operator::BitXor => BinaryOp::BitXor,
        ast::Operator::BitAnd => BinaryOp::BitAnd,
        ast::Operator::FloorDiv => BinaryOp::FloorDiv,
    }
}

pub(super) fn compare_op(op: ast::CmpOp) -> CompareOp {
    match op {
        ast::CmpOp::Eq => CompareOp::Eq,
        ast::CmpOp::NotEq => CompareOp::NotEq,
        ast::CmpOp::Lt => CompareOp::Lt,
        ast::CmpOp::LtE => CompareOp::LtE,
        ast::CmpOp::Gt => CompareOp::Gt,
        ast::CmpOp::GtE => CompareOp::GtE,
        ast::CmpOp::Is => CompareOp::Is,
        ast::CmpOp::IsNot => CompareOp::IsNot,
        ast::CmpOp::In => CompareOp::In,
        ast::CmpOp::NotIn => CompareOp::NotIn,
    }
}
